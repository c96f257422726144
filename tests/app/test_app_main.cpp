// One application for all window tests; its settings and data go into a folder of their own.
#define CATCH_CONFIG_RUNNER
#include "app/theme.h"
#include "tests/app/window.h"

#include "tests/catch.h"
#include <QApplication>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <cstdio>

namespace {

void listen(QtMsgType type, const QMessageLogContext&, const QString& message) {
    static const QStringList of_the_platform{
        QStringLiteral("This plugin does not support"), QStringLiteral("XDG_RUNTIME_DIR")};
    for (const QString& each : of_the_platform)
        if (message.contains(each)) return;
    fprintf(stderr, "%s\n", qPrintable(message));
    if (type != QtDebugMsg && type != QtInfoMsg) fulmox::testing::complaints().append(message);
}

// The two generations of the framework differ in whether this is a pointer.
template <class Stats> std::string name_of(const Stats& stats) {
    if constexpr (requires { stats.testInfo->name; })
        return stats.testInfo->name;
    else
        return stats.testInfo.name;
}

struct NoComplaints : Catch::TestEventListenerBase {
    using TestEventListenerBase::TestEventListenerBase;
    void testCaseEnded(const Catch::TestCaseStats& stats) override {
        if (fulmox::testing::complaints().isEmpty()) return;
        fprintf(stderr, "Qt complained in \"%s\"\n", name_of(stats).c_str());
        ever = true;
        fulmox::testing::complaints().clear();
    }
    static inline bool ever = false;
};
CATCH_REGISTER_LISTENER(NoComplaints)

} // namespace

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
    qInstallMessageHandler(listen);
    const int failed = Catch::Session().run(argc, argv);
    return failed != 0 || NoComplaints::ever ? 1 : 0;
}
