import '../gen/dart/watchtext.dart';
import '../gen/dart/wording.dart';

/// A boarding desk in a terminal: a screenful of texts, in one culture after another while it runs.
Future<void> main(List<String> arguments) async {
  final int pause = arguments.isEmpty ? 700 : int.parse(arguments.first);
  final CultureSwitch cultures = CultureSwitch();
  final Wording wording = Wording(cultures);
  final WatchText watch = WatchText(cultures);
  show(cultures, wording, watch);
  final CultureSubscription subscription = cultures.listen((String culture) => show(cultures, wording, watch));
  for (final String culture in cultures.supported) {
    cultures.choose(culture);
    await Future<void>.delayed(Duration(milliseconds: pause));
  }
  subscription.close();
}

void show(CultureSwitch cultures, Wording wording, WatchText watch) {
  print('[${cultures.current} ${cultures.direction}] ${cultures.displayName(cultures.current)}');
  print('  ${wording.boardingTitle}');
  print('  ${wording.boardingGreeting('Runa')}');
  print('  ${wording.bookingCountPassengers(2)}, ${wording.bookingCountBicycles(5)}');
  print('  ${wording.delayTitle}: ${wording.delayReason}');
  print('  ${watch.watchTitle} - ${watch.watchLate}');
  print('  < ${wording.actionBack}   ${wording.actionNext} >');
}
