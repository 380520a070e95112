// A designed form follows the switch through its translator; what was typed and selected stays.
#include <QLineEdit>
#include <QPushButton>
#include <iostream>
#include <thread>

#include "text/wording_translator.h"
#include "ui_form.h"

class Form : public QWidget {
public:
    Form() { ui.setupUi(this); }

    Ui::BoardingForm ui;

protected:
    void changeEvent(QEvent* event) override {
        if (event->type() == QEvent::LanguageChange) {
            ui.retranslateUi(this);
        }
        QWidget::changeEvent(event);
    }
};

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    skerry::text::CultureSwitch cultures;
    skerry::text::WordingTranslator translator(cultures);
    QCoreApplication::installTranslator(&translator);
    Form form;
    form.ui.field->setFocus();
    form.show();
    QCoreApplication::processEvents();
    form.ui.field->setText("Runa");
    form.ui.field->setSelection(1, 2);
    auto show = [&] {
        QCoreApplication::processEvents();
        QCoreApplication::processEvents(); // what the first of them posted
        std::cout << cultures.current() << " " << form.windowTitle().toStdString() << " | " << form.ui.title->text().toStdString() << " | " << form.ui.back->text().toStdString() << " | "
                  << (form.layoutDirection() == Qt::RightToLeft ? "rtl" : "ltr") << " | " << form.ui.field->text().toStdString() << " " << form.ui.field->selectedText().toStdString() << " | "
                  << QCoreApplication::translate("BoardingForm", "%n crates for %1", nullptr, 3).arg("Runa").toStdString() << "\n";
    };
    show();
    cultures.choose("ar");
    show();
    std::thread other([&] { cultures.choose("de"); });
    other.join();
    show();
    return 0;
}
