#include "tests/app/window.h"

#include <QLabel>
#include <QProcess>
#include <QPushButton>
#include <csignal>
#include <sys/resource.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

QByteArray bytes_of(const QString& file) {
    QFile f(file);
    REQUIRE(f.open(QIODevice::ReadOnly));
    return f.readAll();
}

// While it lives, no file can grow beyond a few bytes: a full disk as far as this process can tell.
struct FullDisk {
    rlimit before{};
    FullDisk() {
        std::signal(SIGXFSZ, SIG_IGN);
        getrlimit(RLIMIT_FSIZE, &before);
        rlimit tight{512, before.rlim_max};
        setrlimit(RLIMIT_FSIZE, &tight);
    }
    ~FullDisk() { setrlimit(RLIMIT_FSIZE, &before); }
};

} // namespace

TEST_CASE("save and open keep everything") {
    Window w;
    w.type("/mechanism/lead", "2*6 mm");
    CHECK(w.document().modified());
    const Machine before = w.document().machine();
    const QString file = w.folder.filePath(QStringLiteral("a.fulmox"));
    REQUIRE(w.window.save_to(file));
    CHECK(!w.document().modified());
    CHECK(w.window.windowTitle().indexOf(QLatin1Char('*')) < 0);
    Window other;
    REQUIRE(other.window.open_file(file));
    CHECK(other.document().machine() == before);
    CHECK(other.edit("/mechanism/lead")->text() == QStringLiteral("2*6 mm"));
    CHECK(recent_files().contains(file));
}

TEST_CASE("a full disk: said clearly, the old file whole, the work still open") {
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("a.fulmox"));
    REQUIRE(w.window.save_to(file));
    const QByteArray before = bytes_of(file);
    w.type("/load/payload", "21 kg");
    {
        FullDisk full;
        CHECK(!w.window.save_to(file));
        CHECK(!w.window.save_to(w.folder.filePath(QStringLiteral("b.fulmox"))));
    }
    CHECK(w.window.message().contains(QStringLiteral("as it was before")));
    CHECK(bytes_of(file) == before);
    CHECK(w.document().modified());
    CHECK(w.document().axis().load.payload.text == "21 kg");
    REQUIRE(w.window.save_to(file));
    CHECK(bytes_of(file) != before);
}

TEST_CASE("a folder that cannot be written: said clearly, nothing lost") {
    Window w;
    w.type("/load/payload", "22 kg");
    // /proc takes no files from anybody, root included
    CHECK(!w.window.save_to(QStringLiteral("/proc/fulmox-test.fulmox")));
    CHECK(w.window.message().contains(QStringLiteral("cannot be written")));
    CHECK(w.document().modified());
    CHECK(!w.window.save_to(w.folder.filePath(QStringLiteral("no/such/folder/a.fulmox"))));
}

TEST_CASE("files that are no projects are refused in words and leave the open project alone") {
    Window w;
    const Machine before = w.document().machine();
    const auto refuse = [&](const QByteArray& content, const char* word) {
        const QString file = w.folder.filePath(QStringLiteral("bad.fulmox"));
        QFile f(file);
        REQUIRE(f.open(QIODevice::WriteOnly));
        f.write(content);
        f.close();
        CHECK(!w.window.open_file(file));
        INFO(w.window.message().toStdString());
        CHECK(w.window.message().contains(QLatin1String(word)));
        CHECK(w.document().machine() == before);
    };
    refuse("", "empty");
    refuse("{\"format\": \"fulmox-pro", "cut off");
    refuse(QByteArray("\x7f\x45\x4c\x46\0\0\0\1", 8), "binary");
    refuse(QByteArray(300000, '['), "nested");
    QFile big(w.folder.filePath(QStringLiteral("big.fulmox")));
    REQUIRE(big.open(QIODevice::WriteOnly));
    REQUIRE(big.resize(100 * 1000 * 1000));
    big.close();
    CHECK(!w.window.open_file(big.fileName()));
    CHECK(w.window.message().contains(QStringLiteral("MB")));
    CHECK(!w.window.open_file(QStringLiteral("/no/such/file.fulmox")));
    CHECK(w.window.message().contains(QStringLiteral("not there")));
}

TEST_CASE("a newer file opens for reading: edits are refused with the reason, saving asks for another name") {
    Window w;
    QByteArray text = QByteArray::fromStdString(write_project(w.document().machine()));
    text.replace("\"version\": " + QByteArray::number(project_version), "\"version\": 9");
    const QString file = w.folder.filePath(QStringLiteral("newer.fulmox"));
    QFile f(file);
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write(text);
    f.close();
    REQUIRE(w.window.open_file(file));
    CHECK(w.document().read_only());
    CHECK(w.window.message().contains(QStringLiteral("newer")));
    const Machine before = w.document().machine();
    QuantityEdit* e = w.type("/load/payload", "21 kg");
    CHECK(e->wrong());
    CHECK(w.document().machine() == before);
    QTest::keyClick(&w.window, Qt::Key_S, Qt::ControlModifier);
    CHECK(w.window.message().contains(QStringLiteral("another name")));
    CHECK(bytes_of(file) == text);
}

TEST_CASE("a file with a bad field opens, shows where, and keeps the text") {
    Window w;
    QByteArray text = QByteArray::fromStdString(write_project(w.document().machine()));
    text.replace("\"90 deg\"", "\"90 kg\"");
    const QString file = w.folder.filePath(QStringLiteral("bad-field.fulmox"));
    QFile f(file);
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write(text);
    f.close();
    REQUIRE(w.window.open_file(file));
    CHECK(w.window.message().contains(QStringLiteral("/axes/0/load/inclination")));
    CHECK(w.window.message().contains(QStringLiteral("line ")));
    CHECK(w.edit("/load/inclination")->text() == QStringLiteral("90 kg"));
    CHECK(w.edit("/load/inclination")->wrong());
    CHECK(!w.document().assessment().demand);
    w.type("/load/inclination", "90 deg");
    CHECK(w.document().assessment().demand);
}

TEST_CASE("work of a killed program is offered and comes back") {
    QTemporaryDir home;
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("work.fulmox"));
    QString recovery = folder.filePath(QStringLiteral("recovery"));
    // a process of its own keeps unsaved work and is killed
    const QString self = QCoreApplication::applicationFilePath();
    QProcess process;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert(QStringLiteral("FULMOX_TEST_RECOVERY"), recovery);
    process.setProcessEnvironment(environment);
    process.start(self, {QStringLiteral("[.keeps and waits]")});
    REQUIRE(process.waitForStarted());
    QTRY_VERIFY_WITH_TIMEOUT(QDir(recovery).exists(QStringLiteral("ready")), 20000);
    {
        // while it runs nothing is offered
        Recovery own(recovery);
        CHECK(own.leftovers().empty());
    }
    process.kill();
    process.waitForFinished();
    MainWindow window(recovery);
    window.confirm_leave = [] { return MainWindow::Leave::discard; };
    window.show();
    QTRY_VERIFY(window.message().contains(QStringLiteral("unsaved work")));
    QPushButton* bring = nullptr;
    for (QPushButton* b : window.findChildren<QPushButton*>())
        if (b->text() == QStringLiteral("Bring it back")) bring = b;
    REQUIRE(bring);
    QTest::mouseClick(bring, Qt::LeftButton);
    CHECK(window.document().axis().load.payload.text == "23.5 kg");
    CHECK(window.document().modified());
    window.close();
    // a clean close leaves nothing behind
    Recovery after(recovery);
    CHECK(after.leftovers().empty());
}

TEST_CASE("keeps and waits", "[.keeps and waits]") {
    const QString recovery = qEnvironmentVariable("FULMOX_TEST_RECOVERY");
    REQUIRE(!recovery.isEmpty());
    MainWindow window(recovery);
    window.open_demo();
    window.show();
    window.document().set_quantity(QStringLiteral("/axes/0/load/payload"), QStringLiteral("23.5 kg"));
    // autosave by itself, not by call
    QTRY_VERIFY_WITH_TIMEOUT(!QDir(recovery).entryList({QStringLiteral("*.json")}).isEmpty(), 15000);
    QFile ready(recovery + QStringLiteral("/ready"));
    REQUIRE(ready.open(QIODevice::WriteOnly));
    ready.close();
    QTest::qWait(60000);
}

TEST_CASE("closing with unsaved work asks, and stays open if told so") {
    Window w;
    w.type("/load/payload", "21 kg");
    CHECK(w.asks_before_closing());
    CHECK(w.window.close());
}
