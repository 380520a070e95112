// A boarding desk that switches through cultures while it runs.
#include <fstream>
#include <iostream>
#include <stdexcept>
#include <thread>

#include "app/culture_signal.h"
#include "app/wording_cases.h"
#include "choices/wording_cases.h"
#include "nasty/wording_cases.h"

namespace {

class Store : public app::text::CultureStore {
public:
    std::string saved = "de";
    std::string load() override { return saved; }
    void save(const std::string& culture) override { saved = culture; }
};

// Keeps the choice in a file.
class FileStore : public app::text::CultureStore {
public:
    std::string load() override {
        std::ifstream in("choice.txt");
        std::string saved;
        in >> saved;
        return saved;
    }
    void save(const std::string& culture) override { std::ofstream("choice.txt") << culture; }
};

// The memory of the process, in pages.
long used() {
    std::ifstream in("/proc/self/statm");
    long size = 0;
    long resident = 0;
    in >> size >> resident;
    return resident;
}

// Cannot save.
class Broken : public app::text::CultureStore {
public:
    std::string load() override { return ""; }
    void save(const std::string&) override { throw std::runtime_error("unsaved"); }
};

// What a person chose is kept, and what the device asks for is not.
void kept() {
    Store store;
    store.saved = "fr-CA";
    app::text::CultureSwitch one;
    std::string said = one.follow({"ja"}) + " ";
    one.remember(store);
    said += one.current() + " " + store.saved + " " + one.follow({"pl"}) + " ";
    one.choose("fr");
    said += store.saved + " ";
    one.clear();
    said += one.current() + store.saved + " ";
    said += one.followHeader("de;q=0.5, fi, *;q=0.1");
    for (const char* saved : {"iw", "xx", "sh"}) {
        Store memory;
        memory.saved = saved;
        app::text::CultureSwitch again;
        again.remember(memory);
        said += " " + again.current();
    }
    std::cout << said << "\n";
    Broken broken;
    one.remember(broken);
    auto first = one.listen([](const std::string&) { throw std::runtime_error("first"); });
    auto second = one.listen([](const std::string& culture) { std::cout << "still " << culture << "\n"; });
    try {
        one.choose("ar");
    } catch (const std::runtime_error& error) {
        std::cout << "caught " << error.what() << " " << one.current() << "\n";
    }
}

void more(nasty::text::CultureSwitch& other, const nasty::text::Wording& text) {
    other.clear();
    std::cout << other.follow({"sr-RS"}) << " ";
    std::cout << other.follow({"sr-Latn-RS"}) << " ";
    std::cout << other.follow({"zh-TW"}) << " ";
    std::cout << other.follow({"zh-CN", "ar-EG"}) << " ";
    std::cout << other.follow({}) << "\n";
    // Texts are loaded while it runs; what is no message falls back.
    app::text::CultureSwitch cultures;
    app::text::Wording wording(cultures);
    auto told = cultures.listen([&](const std::string& culture) { std::cout << "loaded " << culture << ": " << wording.boardingTitle() << "\n"; });
    cultures.choose("de");
    std::string loads;
    for (const char* bundle : {
             "nonsense",
             "{\"culture\":\"de\",\"syntax\":\"other\",\"texts\":{}}",
             "{\"culture\":\"de\",\"texts\":{\"boarding_title\":\"x\",\"boarding_greeting\":\"Hallo {name\"}}",
             "{\"culture\":\"nl\",\"name\":\"Nederlands\",\"direction\":\"ltr\",\"texts\":{\"boarding_title\":\"Instapkaart\",\"booking_count_bicycles\":\"{count, plural, one {# fiets} other {# fietsen}}\"},\"plurals\":{\"one\":\"i = 1 and v = 0\"}}",
             "{\"culture\": \"de\", \"texts\": {\"boarding_title\": \"Neue \\\"Karte\\\" \\u00e4\"}, \"more\": [1, {\"a\": null}]}"}) {
        loads += cultures.load(bundle).empty() ? "taken " : "refused ";
    }
    std::cout << loads << "| " << wording.boardingGreeting("Runa") << "\n";
    cultures.choose("nl");
    std::cout << cultures.displayName("nl") << " " << wording.bookingCountBicycles(1) << " " << wording.bookingCountBicycles(3) << " " << wording.boardingGreeting("Runa")
              << " " << cultures.supported().size() << " " << cultures.within("fr-CA", [&] { return cultures.current(); }) << "\n";
    told.close();
    other.reportMissing([](const std::string& culture, const std::string& key) { std::cout << "missing " << culture << " " << key << "\n"; });
    other.choose("ar");
    (void)text.twoWords();
    (void)text.classText();
    (void)text.classText();
    // A listener that ends itself.
    app::text::CultureSwitch::Subscription once;
    once = cultures.listen([&](const std::string& culture) {
        std::cout << "once " << culture << "\n";
        once.close();
    });
    auto twice = cultures.listen([](const std::string& culture) { std::cout << "twice " << culture << "\n"; });
    cultures.choose("fi");
    cultures.choose("pl");
    twice.close();
    auto listenOften = [&](int times) {
        for (int i = 0; i < times; i++) {
            cultures.listen([](const std::string& culture) { std::cout << culture; }).close();
        }
    };
    listenOften(20000); // the thread sanitizer's own memory
    long before = used();
    listenOften(100000);
    std::cout << (used() - before < 1024 ? "flat" : "grown") << "\n";
    bool right[2] = {true, true};
    std::vector<std::thread> threads;
    for (int i = 0; i < 2; i++) {
        threads.emplace_back([&, i] {
            std::string culture = i == 0 ? "de" : "fi";
            for (int n = 0; n < 1000; n++) {
                std::string said = cultures.within(culture, [&] {
                    std::string outer = cultures.current();
                    outer += cultures.within("he", [&] { return cultures.direction(); });
                    return outer + cultures.current();
                });
                right[i] = right[i] && said == culture + "rtl" + culture;
            }
        });
    }
    for (std::thread& thread : threads) {
        thread.join();
    }
    std::cout << (right[0] ? "de" : "wrong") << " " << (right[1] ? "fi" : "wrong") << "\n";
#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wdeprecated-declarations"
    std::cout << cultures.within("de", [&] { return wording.goneGreeting("Runa"); }) << " | ";
    std::cout << cultures.within("en", [&] { return wording.goneGreeting("Runa"); }) << "\n";
#pragma GCC diagnostic pop
    {
        app::text::CultureSignal signal(cultures);
        signal.connect([&](const std::string& culture) { std::cout << "bound " << culture << " " << wording.boardingTitle() << "\n"; });
        cultures.choose("he");
    }
    std::vector<std::string> failures = app::text::wordingFailures();
    std::cout << "cases " << failures.size() << " " << nasty::text::wordingFailures().size() << " " << choices::text::wordingFailures().size() << "\n";
    static FileStore store;
    cultures.remember(store);
    cultures.choose("ja");
}

}  // namespace

int main(int argc, char**) {
    if (argc > 1) {  // started again: what was chosen before is chosen now
        FileStore store;
        app::text::CultureSwitch cultures;
        cultures.remember(store);
        std::cout << "again " << cultures.current() << "\n";
        return 0;
    }
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
    cultures.clear();
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
    kept();
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
    more(other, text);
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
