// A Qt window with a line of text that ends as soon as it has been painted: what starting costs before any program
// begins.
#include <QApplication>
#include <QLabel>
#include <cstdlib>

class Empty : public QLabel {
  public:
    Empty() : QLabel(QStringLiteral("A window with a line of text")) {}

  protected:
    void paintEvent(QPaintEvent* event) override {
        QLabel::paintEvent(event);
        QMetaObject::invokeMethod(
            this, [] { std::_Exit(0); }, Qt::QueuedConnection);
    }
};

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    Empty window;
    window.resize(1280, 800);
    window.show();
    return QApplication::exec();
}
