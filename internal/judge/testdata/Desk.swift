import App
import Choices
import Dispatch
import Foundation
import Nasty

/// A boarding desk that switches through cultures while it runs.
@main
struct Desk {
    static func main() async {
        if CommandLine.arguments.count > 1 { // started again: what was chosen before is chosen now
            let again = App.CultureSwitch()
            again.remember(FileStore())
            print("again \(again.current)")
            return
        }
        let cultures = App.CultureSwitch()
        let wording = App.Wording(cultures)
        let heard = cultures.listen { print("heard \($0): \(wording.boardingTitle)") }
        for culture in ["en", "de", "de-CH", "pl", "he", "ja", "fr"] {
            cultures.choose(culture)
            print("\(cultures.current) \(cultures.direction) \(cultures.displayName(culture)) | \(wording.boardingGreeting(name: "Runa"))", terminator: "")
            print(" | \(wording.bookingCountBicycles(count: 1)) | \(wording.bookingCountBicycles(count: 3)) | \(wording.bookingCountBicycles(count: 5))")
        }
        print("\(cultures.choose("xx")) \(cultures.current)")
        heard.close()
        cultures.clear()
        print([["fr-CA", "en"], ["zh-TW", "de-AT"], ["pt-PT"], ["xx"]].map { cultures.follow($0) }.joined(separator: " "))
        let nested = cultures.within("de") { "\(wording.boardingTitle) \(cultures.within("fi") { wording.boardingTitle }) \(wording.boardingTitle)" }
        print("\(nested) \(wording.boardingTitle)")
        // A listener that switches on: the later ones hear the newer culture once.
        let first = cultures.listen {
            print("first \($0)")
            if $0 == "fi" {
                cultures.choose("pl")
            }
        }
        let second = cultures.listen { print("second \($0)") }
        cultures.choose("fi")
        kept()
        let store = Memory("de")
        let fresh = App.CultureSwitch()
        fresh.remember(store)
        fresh.choose("he")
        print(store.saved)
        let shown = App.Wording(fresh)
        fresh.beginAudit()
        _ = shown.boardingTitle + shown.boardingGreeting(name: "Runa")
        print("[\(fresh.audit().joined(separator: ", "))]")
        fresh.choose("pl")
        _ = shown.boardingTitle + fresh.within("fi") { shown.actionBack }
        print("[\(fresh.audit().joined(separator: ", "))]")
        let other = Nasty.CultureSwitch()
        let text = Nasty.Wording(other)
        print("\(text.classText) \(text.twoWords) \(text.twoWords2) \(text.text9lives) \(text.injection)")
        print("\(text.toString(arg1: "a", arg2: 1234, arg3: 1234.5)) | \(text.same(new: "n", classValue: "c"))")
        other.choose("ar")
        let line = [1, 2].map { text.forms(count: $0) + " " }.joined()
        let letters = [0, 3, 11, 100].map { String(text.forms(count: $0).prefix(1)) }.joined()
        print("\(line)\(letters) \(text.twoWords) \(text.injection.utf16.count)")
        await more(other, text)
        first.close()
        second.close()
    }

    // What a person chose is kept, and what the device asks for is not.
    static func kept() {
        let store = Memory("fr-CA")
        let one = App.CultureSwitch()
        var said = one.follow(["ja"]) + " "
        one.remember(store)
        said += "\(one.current) \(store.saved) \(one.follow(["pl"])) "
        one.choose("fr")
        said += "\(store.saved) "
        one.clear()
        said += "\(one.current)\(store.saved) \(one.follow(header: "de;q=0.5, fi, *;q=0.1"))"
        for saved in ["iw", "xx", "sh"] {
            let again = App.CultureSwitch()
            again.remember(Memory(saved))
            said += " \(again.current)"
        }
        print(said)
    }

    static func more(_ other: Nasty.CultureSwitch, _ text: Nasty.Wording) async {
        other.clear()
        print([["sr-RS"], ["sr-Latn-RS"], ["zh-TW"], ["zh-CN", "ar-EG"], []].map { other.follow($0) }.joined(separator: " "))
        // Texts are loaded while it runs; what is no message is refused.
        let cultures = App.CultureSwitch()
        let wording = App.Wording(cultures)
        let told = cultures.listen { print("loaded \($0): \(wording.boardingTitle)") }
        cultures.choose("de")
        let loads = [
            ##"nonsense"##,
            ##"{"culture":"de","syntax":"other","texts":{}}"##,
            ##"{"culture":"de","texts":{"boarding_title":"x","boarding_greeting":"Hallo {name"}}"##,
            ##"{"culture":"nl","name":"Nederlands","direction":"ltr","texts":{"boarding_title":"Instapkaart","booking_count_bicycles":"{count, plural, one {# fiets} other {# fietsen}}"},"plurals":{"one":"i = 1 and v = 0"}}"##,
            ##"{"culture": "de", "texts": {"boarding_title": "Neue \"Karte\" \u00e4"}, "more": [1, {"a": null}]}"##,
        ].map { cultures.load(Data($0.utf8)) == nil ? "taken" : "refused" }
        print("\(loads.joined(separator: " ")) | \(wording.boardingGreeting(name: "Runa"))")
        cultures.choose("nl")
        print("\(cultures.displayName("nl")) \(wording.bookingCountBicycles(count: 1)) \(wording.bookingCountBicycles(count: 3))", terminator: "")
        print(" \(wording.boardingGreeting(name: "Runa")) \(cultures.supported.count) \(cultures.within("fr-CA") { cultures.current })")
        told.close()
        other.reportMissing { print("missing \($0) \($1)") }
        other.choose("ar")
        _ = text.twoWords + text.classText + text.classText
        // A listener that ends itself.
        let once = Once()
        once.subscription = cultures.listen {
            print("once \($0)")
            once.subscription?.close()
        }
        let twice = cultures.listen { print("twice \($0)") }
        cultures.choose("fi")
        cultures.choose("pl")
        twice.close()
        for _ in 0..<100_000 {
            cultures.listen { print($0) }.close()
        }
        print("flat")
        // In tasks, where other tasks have other scopes.
        let right = await withTaskGroup(of: Bool.self) { group in
            for culture in ["de", "fi"] {
                group.addTask {
                    var right = true
                    for _ in 0..<1000 {
                        let said = await cultures.within(culture) { () async -> String in
                            await Task.yield()
                            return cultures.current + cultures.within("he") { cultures.direction } + wording.cultures.current
                        }
                        right = right && said == culture + "rtl" + culture
                    }
                    return right
                }
            }
            return await group.reduce(true) { $0 && $1 }
        }
        print(right ? "de fi" : "wrong")
        print(gone(cultures, wording))
        let object = await CultureObject(cultures)
        await MainActor.run { _ = cultures.choose("he") }
        await print("bound \(object.culture) \(object.wording.boardingTitle)")
        print("cases 0 0 0") // they are tests of their own
        cultures.remember(FileStore())
        cultures.choose("ja")
    }

    @available(*, deprecated)
    static func goneTexts(_ cultures: App.CultureSwitch, _ wording: App.Wording) -> String {
        "\(cultures.within("de") { wording.goneGreeting(name: "Runa") }) | \(cultures.within("en") { wording.goneGreeting(name: "Runa") })"
    }

    // Calls what is deprecated without being warned.
    static func gone(_ cultures: App.CultureSwitch, _ wording: App.Wording) -> String {
        (Desk() as any Gone).gone(cultures, wording)
    }
}

protocol Gone {
    func gone(_ cultures: App.CultureSwitch, _ wording: App.Wording) -> String
}

extension Desk: Gone {
    @available(*, deprecated)
    func gone(_ cultures: App.CultureSwitch, _ wording: App.Wording) -> String {
        Self.goneTexts(cultures, wording)
    }
}

final class Once: @unchecked Sendable {
    var subscription: App.CultureSwitch.Subscription?
}

/// Keeps a choice in memory.
final class Memory: App.CultureStore {
    var saved: String

    init(_ saved: String) {
        self.saved = saved
    }

    func load() -> String? { saved }

    func save(_ culture: String) {
        saved = culture
    }
}

/// Keeps the choice in a file.
final class FileStore: App.CultureStore {
    func load() -> String? { try? String(contentsOfFile: "choice.txt", encoding: .utf8) }

    func save(_ culture: String) {
        try? culture.write(toFile: "choice.txt", atomically: true, encoding: .utf8)
    }
}
