import Foundation

/// A boarding desk in a terminal: a screenful of texts, in one culture after another while it runs.
@main
struct Desk {
    static func main() {
        let pause = CommandLine.arguments.dropFirst().first.flatMap(Double.init) ?? 700
        let cultures = CultureSwitch()
        let wording = Wording(cultures)
        let watch = WatchText(cultures)
        show(cultures, wording, watch)
        let subscription = cultures.listen { _ in show(cultures, wording, watch) }
        for culture in cultures.supported {
            cultures.choose(culture)
            Thread.sleep(forTimeInterval: pause / 1000)
        }
        subscription.close()
    }

    private static func show(_ cultures: CultureSwitch, _ wording: Wording, _ watch: WatchText) {
        print("[\(cultures.current) \(cultures.direction)] \(cultures.displayName(cultures.current))")
        print("  \(wording.boardingTitle)")
        print("  \(wording.boardingGreeting(name: "Runa"))")
        print("  \(wording.bookingCountPassengers(count: 2)), \(wording.bookingCountBicycles(count: 5))")
        print("  \(wording.delayTitle): \(wording.delayReason)")
        print("  \(watch.watchTitle) - \(watch.watchLate)")
        print("  < \(wording.actionBack)   \(wording.actionNext) >")
    }
}
