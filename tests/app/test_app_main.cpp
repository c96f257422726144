// One application for all window tests; its settings and data go into a folder of their own.
#define CATCH_CONFIG_RUNNER
#include "app/theme.h"
#include "tests/app/window.h"

#include <QApplication>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <catch2/catch.hpp>

int main(int argc, char** argv) {
    QTemporaryDir home;
    qputenv("XDG_CONFIG_HOME", home.path().toLocal8Bit());
    qputenv("XDG_DATA_HOME", home.path().toLocal8Bit());
    QApplication application(argc, argv);
    QApplication::setApplicationName(QStringLiteral("fulmox"));
    QApplication::setOrganizationName(QStringLiteral("fulmox"));
    if (!fulmox::app::load_fonts()) {
        qCritical("the fonts of the program are missing");
        return 1;
    }
    fulmox::app::apply_theme(application, false);
    return Catch::Session().run(argc, argv);
}
