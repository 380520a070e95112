import Foundation
import Observation

final class Seen: @unchecked Sendable {
    var lines: [String] = []
}

@MainActor
final class Screen {
    var title = ""
}

@main
struct Observed {
    static func main() async {
        let cultures = CultureSwitch()
        let wording = Wording(cultures)
        let observation = CultureObservation(cultures)
        let seen = Seen()
        // As a view does: what reads a text is told once that it has to read it again.
        @Sendable func draw() {
            withObservationTracking {
                seen.lines.append("\(cultures.current) \(wording.boardingTitle)")
            } onChange: {
                seen.lines.append("stale")
            }
        }
        draw()
        cultures.choose("de")
        draw()
        cultures.load(Data("{\"culture\": \"de\", \"texts\": {\"boarding_title\": \"Neue Karte\"}}".utf8))
        draw()
        print(seen.lines.joined(separator: "\n"))
        print(observation.revision)

        // From another thread: the main actor hears of it; a listening that ended meanwhile does not.
        let screen = Screen()
        let kept = cultures.listenOnMain { culture in screen.title = culture + " " + wording.boardingTitle }
        let ended = cultures.listenOnMain { _ in screen.title = "heard after its end" }
        let thread = Thread { cultures.choose("ar") }
        thread.start()
        while !thread.isFinished {
            usleep(1000)
        }
        ended.close()
        for _ in 0..<100 where screen.title.isEmpty {
            try? await Task.sleep(nanoseconds: 10_000_000)
        }
        print(screen.title)
        kept.close()
    }
}
