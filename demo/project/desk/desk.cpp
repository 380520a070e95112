#include <chrono>
#include <cstdlib>
#include <iostream>
#include <thread>

#include "../gen/cpp/watchtext.h"
#include "../gen/cpp/wording.h"

namespace {

void show(const skerry::text::CultureSwitch& cultures, const skerry::text::Wording& wording,
          const skerry::text::WatchText& watch) {
    std::cout << "[" << cultures.current() << " " << cultures.direction() << "] " << cultures.displayName(cultures.current()) << "\n"
              << "  " << wording.boardingTitle() << "\n"
              << "  " << wording.boardingGreeting("Runa") << "\n"
              << "  " << wording.bookingCountPassengers(2) << ", " << wording.bookingCountBicycles(5) << "\n"
              << "  " << wording.delayTitle() << ": " << wording.delayReason() << "\n"
              << "  " << watch.watchTitle() << " - " << watch.watchLate() << "\n"
              << "  < " << wording.actionBack() << "   " << wording.actionNext() << " >" << std::endl;
}

}  // namespace

// A boarding desk in a terminal: a screenful of texts, in one culture after another while it runs.
int main(int argc, char** argv) {
    const std::chrono::milliseconds pause(argc > 1 ? std::atoi(argv[1]) : 700);
    skerry::text::CultureSwitch cultures;
    skerry::text::Wording wording(cultures);
    skerry::text::WatchText watch(cultures);
    show(cultures, wording, watch);
    auto subscription = cultures.listen([&](const std::string&) { show(cultures, wording, watch); });
    for (const std::string& culture : cultures.supported()) {
        cultures.choose(culture);
        std::this_thread::sleep_for(pause);
    }
    return 0;
}
