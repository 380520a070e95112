import Foundation
import Observation

final class Seen: @unchecked Sendable {
    var lines: [String] = []
}

@main
struct Observed {
    static func main() {
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
    }
}
