#include "app/early.h"
#include "app/quick_report.h"
#include "app/shots.h"
#include "app/theme.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>
#include <algorithm>
#include <cstdio>
#include <malloc.h>
#include <string_view>

namespace {

// The version and the help need no display.
bool asks_for_words(int argc, char** argv) {
    return std::any_of(argv + std::min(argc, 1), argv + argc, [](const char* each) {
        const std::string_view a = each;
        return a == "-v" || a == "--version" || a == "-h" || a == "--help" || a == "--help-all";
    });
}

} // namespace

int main(int argc, char** argv) {
    // an assessment takes some MB and gives them back at once: asking the system for them again costs a fifth of its
    // time
    ::mallopt(M_TRIM_THRESHOLD, 64 << 20);
    ::mallopt(M_MMAP_THRESHOLD, 32 << 20);
    QCoreApplication::setApplicationName(QStringLiteral("fulmox"));
    QCoreApplication::setOrganizationName(QStringLiteral("fulmox"));
    QCoreApplication::setApplicationVersion(QStringLiteral(FULMOX_VERSION));
    QCommandLineParser arguments;
    arguments.setApplicationDescription(QStringLiteral("Sizes servo axes from the load to the motor."));
    arguments.addHelpOption();
    arguments.addVersionOption();
    const QCommandLineOption demo(QStringLiteral("demo"), QStringLiteral("Open the demo project."));
    const QCommandLineOption shots(QStringLiteral("shots"),
        QStringLiteral("Write a picture of every main view of the demo project into a folder and end."),
        QStringLiteral("folder"));
    const QCommandLineOption time_start(QStringLiteral("exit-after-first-paint"),
        QStringLiteral("End as soon as the window has been painted; for timing."));
    const QCommandLineOption report(QStringLiteral("report"),
        QStringLiteral("Write the report of an axis of the project as a PDF and end."), QStringLiteral("pdf"));
    const QCommandLineOption of_axis(QStringLiteral("axis"), QStringLiteral("The axis of the report, from 1."),
        QStringLiteral("number"), QStringLiteral("1"));
    arguments.addOptions({demo, report, of_axis, shots, time_start});
    arguments.addPositionalArgument(
        QStringLiteral("file"), QStringLiteral("Project to open."), QStringLiteral("[file]"));
    if (asks_for_words(argc, argv)) {
        const QCoreApplication application(argc, argv);
        arguments.process(application);
    }
    fulmox::app::EarlyWork early(argc, argv);
    QApplication::setAttribute(Qt::AA_DontUseNativeMenuBar); // the menus stand in the top bar
    QApplication application(argc, argv);
    arguments.process(application);

    early.fonts_ready();
    fulmox::app::load_fonts();
    fulmox::app::prepare_theme(application, QSettings().value(QStringLiteral("dark"), false).toBool());
    if (arguments.isSet(shots)) return fulmox::app::write_shots(arguments.value(shots));
    const QStringList files = arguments.positionalArguments();
    if (arguments.isSet(report)) {
        auto project = arguments.isSet(demo) ? fulmox::app::load_demo()
                                             : fulmox::app::load_project(files.isEmpty() ? QString() : files.first());
        const QString why = fulmox::app::write_report_of(std::move(project),
            files.isEmpty() ? QString() : files.first(), arguments.value(of_axis), arguments.value(report));
        if (why.isEmpty()) return 0;
        std::fprintf(stderr, "fulmox: %s\n", qPrintable(why));
        return 2;
    }
    fulmox::app::MainWindow window(
        {}, nullptr, early.project(files.isEmpty() ? QString() : files.first(), arguments.isSet(demo)));
    fulmox::app::apply_style_sheet(application);
    window.show();
    if (QSettings settings;
        files.isEmpty() && !arguments.isSet(demo) && !settings.value(QStringLiteral("started")).toBool()) {
        settings.setValue(QStringLiteral("started"), true);
        window.offer_start();
    }
    if (arguments.isSet(time_start)) fulmox::app::quit_after_first_paint(window);
    return QApplication::exec();
}
