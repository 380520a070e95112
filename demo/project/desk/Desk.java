import line.skerry.text.CultureSwitch;
import line.skerry.text.WatchText;
import line.skerry.text.Wording;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;

/** A boarding desk in a terminal: a screenful of texts, in one culture after another while it runs. */
public class Desk {
    public static void main(String[] args) throws InterruptedException {
        PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
        long pause = args.length > 0 ? Long.parseLong(args[0]) : 700;
        CultureSwitch cultures = new CultureSwitch();
        Wording wording = new Wording(cultures);
        WatchText watch = new WatchText(cultures);
        show(out, cultures, wording, watch);
        try (CultureSwitch.Subscription subscription = cultures.listen(culture -> show(out, cultures, wording, watch))) {
            for (String culture : cultures.supported()) {
                cultures.choose(culture);
                Thread.sleep(pause);
            }
        }
    }

    private static void show(PrintStream out, CultureSwitch cultures, Wording wording, WatchText watch) {
        out.println("[" + cultures.current() + " " + cultures.direction() + "] " + cultures.displayName(cultures.current()));
        out.println("  " + wording.boardingTitle());
        out.println("  " + wording.boardingGreeting("Runa"));
        out.println("  " + wording.bookingCountPassengers(2) + ", " + wording.bookingCountBicycles(5));
        out.println("  " + wording.delayTitle() + ": " + wording.delayReason());
        out.println("  " + watch.watchTitle() + " - " + watch.watchLate());
        out.println("  < " + wording.actionBack() + "   " + wording.actionNext() + " >");
    }
}
