// A boarding desk that switches through cultures while it runs.
#include <iostream>
#include <thread>

#include "app/wording.h"
#include "nasty/wording.h"

namespace {

class Store : public app::text::CultureStore {
public:
    std::string saved = "de";
    std::string load() override { return saved; }
    void save(const std::string& culture) override { saved = culture; }
};

}  // namespace

int main() {
    app::text::CultureSwitch cultures;
    app::text::Wording wording(cultures);
    auto subscription = cultures.listen([&](const std::string& culture) { std::cout << "heard " << culture << ": " << wording.boardingTitle() << "\n"; });
    for (const char* culture : {"en", "de", "de-CH", "pl", "he", "ja", "fr"}) {
        cultures.choose(culture);
        std::cout << cultures.current() << " " << cultures.direction() << " " << cultures.displayName(culture) << " | " << wording.boardingGreeting("Runa")
                  << " | " << wording.bookingCountBicycles(1) << " | " << wording.bookingCountBicycles(3) << " | " << wording.bookingCountBicycles(5) << "\n";
    }
    std::cout << (cultures.choose("xx") ? "true" : "false") << " " << cultures.current() << "\n";
    subscription.close();
    std::cout << cultures.follow({"fr-CA", "en"}) << " ";
    std::cout << cultures.follow({"zh-TW", "de-AT"}) << " ";
    std::cout << cultures.follow({"pt-PT"}) << " ";
    std::cout << cultures.follow({"xx"}) << "\n";
    std::cout << cultures.within("de", [&] {
        std::string before = wording.boardingTitle();
        std::string inner = cultures.within("fi", [&] { return wording.boardingTitle(); });
        return before + " " + inner + " " + wording.boardingTitle();
    }) << " " << wording.boardingTitle() << "\n";
    // A listener that switches on: the later ones hear the newer culture once.
    auto first = cultures.listen([&](const std::string& culture) {
        std::cout << "first " << culture << "\n";
        if (culture == "fi") {
            cultures.choose("pl");
        }
    });
    auto second = cultures.listen([](const std::string& culture) { std::cout << "second " << culture << "\n"; });
    cultures.choose("fi");
    Store store;
    app::text::CultureSwitch fresh;
    fresh.remember(store);
    fresh.choose("he");
    std::cout << store.saved << "\n";
    app::text::Wording shown(fresh);
    auto stale = [&] {
        std::string list;
        for (const std::string& key : fresh.audit()) {
            list += (list.empty() ? "" : ", ") + key;
        }
        std::cout << "[" << list << "]\n";
    };
    fresh.beginAudit();
    (void)shown.boardingTitle();
    (void)shown.boardingGreeting("Runa");
    stale();
    fresh.choose("pl");
    (void)shown.boardingTitle();
    (void)fresh.within("fi", [&] { return shown.actionBack(); });
    stale();
    nasty::text::CultureSwitch other;
    nasty::text::Wording text(other);
    std::cout << text.classText() << " " << text.twoWords() << " " << text.twoWords2() << " " << text.text9lives() << " " << text.injection() << "\n";
    std::cout << text.toString("a", 1234, 1234.5) << " | " << text.same("n", "c") << "\n";
    other.choose("ar");
    for (int n : {1, 2}) {
        std::cout << text.forms(n) << " ";
    }
    std::cout << text.forms(0).substr(0, 1) << text.forms(3).substr(0, 1) << text.forms(11).substr(0, 1) << text.forms(100).substr(0, 1) << " " << text.twoWords() << " "
              << text.injection().size() << "\n";
    // Other threads read while this one switches; the thread sanitizer looks on.
    first.close();
    second.close();
    std::vector<std::thread> readers;
    for (int i = 0; i < 4; i++) {
        readers.emplace_back([&] {
            for (int n = 0; n < 200; n++) {
                (void)wording.boardingGreeting("Runa");
                (void)cultures.within("de", [&] { return wording.boardingTitle(); });
            }
        });
    }
    for (int n = 0; n < 50; n++) {
        cultures.choose("fr");
        cultures.choose("de");
    }
    for (std::thread& reader : readers) {
        reader.join();
    }
    return 0;
}
