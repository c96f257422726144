// An empty Qt window that ends as soon as it has been painted: what starting costs before any program begins.
#include <QApplication>
#include <QMainWindow>
#include <cstdlib>

class Empty : public QMainWindow {
  protected:
    void paintEvent(QPaintEvent*) override {
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
