#include <locale>

#include "culture_switch.h"
#include "wording.h"

struct Label {
    void setText(const std::string&) {}
};

void draw() {}

void block(Label* title) {
    (void)title;
    app::text::CultureSwitch cultures; //? ~CultureSwitch
BLOCK
}
