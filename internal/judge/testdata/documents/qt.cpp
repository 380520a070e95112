#include <QApplication>
#include <QMainWindow>

#include "wording_translator.h"

struct Form {
    void retranslateUi(QWidget*) {}
};

class Window : public QMainWindow {
    Form ui;
    skerry::text::CultureSwitch cultures;
    skerry::text::Wording wording_{cultures};

protected:
    void changeEvent(QEvent* event) override;
};

int main(int argc, char** argv) { //? QApplication
BLOCK
} //? QApplication
