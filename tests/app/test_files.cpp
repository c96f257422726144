#include "app/pages/how_moves.h"
#include "app/plots/torque_plot.h"
#include "core/files/document.h"
#include "tests/app/full_disk.h"
#include "tests/app/own_files.h"
#include "tests/app/window.h"
#include "tests/demo.h"

#include <QLabel>
#include <QProcess>
#include <QProgressDialog>
#include <QPushButton>
#include <QTimer>
#include <csignal>
#include <cstdio>
#include <sys/resource.h>

using namespace fulmox;
using namespace fulmox::testing;

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
    const QByteArray before = bytes_in(file);
    w.type("/load/payload", "21 kg");
    {
        FullDisk full;
        CHECK(!w.window.save_to(file));
        CHECK(!w.window.save_to(w.folder.filePath(QStringLiteral("b.fulmox"))));
    }
    CHECK(w.window.message().contains(QStringLiteral("as it was before")));
    CHECK(bytes_in(file) == before);
    CHECK(w.document().modified());
    CHECK(w.document().axis().load.payload.text == "21 kg");
    REQUIRE(w.window.save_to(file));
    CHECK(bytes_in(file) != before);
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
    CHECK(bytes_in(file) == text);
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
    QTRY_VERIFY_WITH_TIMEOUT(QDir(recovery).exists(QStringLiteral("ready")), hanging);
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

namespace {

void write(const QString& file, const QByteArray& bytes) {
    QFile f(file);
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write(bytes);
}

QPushButton* banner_button(Window& w, const char* text) {
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->text() == QLatin1String(text) && b->isVisible()) return b;
    return nullptr;
}

QByteArray renamed(const Machine& m, const char* name) {
    Machine other = m;
    other.name = name;
    return QByteArray::fromStdString(write_project(other));
}

} // namespace

TEST_CASE("a file that another program changed is noticed, and either side can be kept") {
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("a.fulmox"));
    REQUIRE(w.window.save_to(file));
    const Machine mine = w.document().machine();
    write(file, renamed(mine, "Theirs"));
    QTRY_VERIFY(w.window.message().contains(QStringLiteral("changed by another program")));
    QTest::mouseClick(banner_button(w, "Take what is on disk"), Qt::LeftButton);
    CHECK(w.document().machine().name == "Theirs");
    CHECK(!w.document().modified());
    w.document().undo_stack().undo(); // what it took the place of is not lost
    CHECK(w.document().machine() == mine);
    CHECK(w.document().modified());
    // put in its place by a rename, as many programs save
    write(file + QStringLiteral(".new"), renamed(mine, "Again"));
    REQUIRE(::rename(QFile::encodeName(file + QStringLiteral(".new")).constData(),
                QFile::encodeName(file).constData()) == 0);
    QTRY_VERIFY(w.window.message().contains(QStringLiteral("changed by another program")));
    QTest::mouseClick(banner_button(w, "Keep what is here"), Qt::LeftButton);
    int asked = 0;
    w.window.confirm_changed = [&](const QString&) {
        ++asked;
        return MainWindow::Overwrite::stay;
    };
    REQUIRE(w.window.save_to(file)); // it has been answered already
    CHECK(asked == 0);
    CHECK(bytes_in(file) == QByteArray::fromStdString(write_project(mine)));
    // its own saving is no change from outside
    w.type("/load/payload", "21 kg");
    REQUIRE(w.window.save_to(file));
    QTest::qWait(400);
    CHECK(w.window.message().isEmpty());
    QFile::remove(file);
    QTRY_VERIFY(w.window.message().contains(QStringLiteral("no longer there")));
    REQUIRE(w.window.save_to(file));
}

TEST_CASE("a change from outside is asked about before it is saved over while nobody has answered") {
    for (const bool leaving : {false, true}) {
        Window w;
        const QString file = w.folder.filePath(QStringLiteral("a.fulmox"));
        REQUIRE(w.window.save_to(file));
        const Machine saved = w.document().machine();
        const QByteArray mine = bytes_in(file), theirs = renamed(saved, "Theirs");
        w.document().set_quantity(QStringLiteral("/axes/0/load/payload"), QStringLiteral("21 kg"));
        int asked = 0;
        w.window.confirm_changed = [&](const QString&) {
            ++asked;
            return MainWindow::Overwrite::stay;
        };
        const auto changed = [&] { return w.window.message().contains(QStringLiteral("changed by another program")); };
        if (leaving) { // another program writes while the question of the unsaved work stands
            w.window.confirm_leave = [&] {
                write(file, theirs);
                for (int i = 0; i < 200 && !changed(); ++i) QTest::qWait(20);
                return MainWindow::Leave::save;
            };
            CHECK(!w.window.close());
            w.window.confirm_leave = [] { return MainWindow::Leave::discard; };
        } else {
            write(file, theirs);
            QTRY_VERIFY(changed());
            CHECK(!w.window.save_to(file));
        }
        CHECK(asked == 1);
        CHECK(bytes_in(file) == theirs);
        CHECK(w.document().modified());
        write(file, mine); // and the other program took it back
        QTRY_VERIFY(w.window.message().contains(QStringLiteral("as it was again")));
        CHECK(w.window.save_to(file));
        CHECK(asked == 1);
    }
}

TEST_CASE("a large project is read beside the window, and may be stopped") {
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("large.fulmox"));
    Machine large = demo();
    while (large.axes.size() < 190) large.axes.push_back(Axis(std::as_const(large.axes)[large.axes.size() % 10]));
    large.name = "Large";
    write(file, QByteArray::fromStdString(write_project(large)));
    REQUIRE(QFileInfo(file).size() > 1 << 20);
    CHECK(w.window.open_file(file));
    CHECK(w.document().machine().name == "Large");
    CHECK(w.document().machine().axes.size() == 190);
    // stopped: what was open stays
    w.type("/load/payload", "21 kg");
    const Machine mine = w.document().machine();
    bool seen = false;
    QTimer looks;
    QObject::connect(&looks, &QTimer::timeout, [&] {
        auto* dialog = w.window.findChild<QProgressDialog*>(QStringLiteral("opening"));
        if (!dialog || seen) return;
        seen = true;
        CHECK(QApplication::activeModalWidget() == dialog);
        QTest::mouseClick(dialog->findChild<QPushButton*>(), Qt::LeftButton);
    });
    looks.start(0);
    const bool opened = w.window.open_file(file);
    CHECK(opened == !seen); // a fast machine has read it within a moment
    CHECK(w.document().machine() == (seen ? mine : large));
}

TEST_CASE("large unsaved work is brought back beside the window; stopped, it is offered again") {
    QTemporaryDir folder;
    Machine large = demo();
    while (large.axes.size() < 190) large.axes.push_back(Axis(std::as_const(large.axes)[large.axes.size() % 10]));
    large.name = "Large";
    write(folder.filePath(QStringLiteral("left.json")),
        QByteArray::fromStdString(write_recovery({"", "", write_project(large)})));
    MainWindow window(folder.path());
    window.show();
    const auto bring_back = [&] {
        QTRY_VERIFY(window.message().contains(QStringLiteral("unsaved work")));
        for (QPushButton* b : window.findChildren<QPushButton*>())
            if (b->isVisible() && b->text() == QStringLiteral("Bring it back"))
                return QTest::mouseClick(b, Qt::LeftButton);
        FAIL("no button");
    };
    bool seen = false;
    QTimer looks;
    QObject::connect(&looks, &QTimer::timeout, [&] {
        auto* dialog = window.findChild<QProgressDialog*>(QStringLiteral("opening"));
        if (!dialog || seen) return;
        seen = true;
        QTest::mouseClick(dialog->findChild<QPushButton*>(), Qt::LeftButton);
    });
    looks.start(0);
    bring_back();
    looks.stop();
    if (seen) {
        CHECK(window.document().machine().name != "Large");
        bring_back();
    }
    CHECK(window.document().machine() == large);
    CHECK(window.document().modified());
}

TEST_CASE("a change from outside that nobody noticed yet is asked about before it is saved over") {
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("a.fulmox"));
    REQUIRE(w.window.save_to(file));
    const QByteArray theirs = renamed(w.document().machine(), "Theirs");
    auto answer = MainWindow::Overwrite::stay;
    int asked = 0;
    w.window.confirm_changed = [&](const QString&) {
        ++asked;
        return answer;
    };
    w.document().set_quantity(QStringLiteral("/axes/0/load/payload"), QStringLiteral("21 kg"));
    write(file, theirs);
    CHECK(!w.window.save_to(file));
    CHECK(asked == 1);
    CHECK(bytes_in(file) == theirs);
    CHECK(w.document().modified());
    answer = MainWindow::Overwrite::over;
    CHECK(w.window.save_to(file));
    CHECK(asked == 2);
    CHECK(bytes_in(file) != theirs);
}

TEST_CASE("two windows on one file: the second one reads, until it is told to edit") {
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("a.fulmox"));
    REQUIRE(w.window.save_to(file));
    MainWindow second(w.folder.path() + QStringLiteral("/recovery")); // the same user's
    second.confirm_leave = [] { return MainWindow::Leave::discard; };
    second.show();
    REQUIRE(second.open_file(file));
    CHECK(second.document().read_only());
    CHECK(second.message().contains(QStringLiteral("open in another window")));
    CHECK(second.document().set_quantity(QStringLiteral("/axes/0/load/payload"), QStringLiteral("21 kg")));
    for (QPushButton* b : second.findChildren<QPushButton*>())
        if (b->text() == QStringLiteral("Edit it here anyway")) QTest::mouseClick(b, Qt::LeftButton);
    CHECK(!second.document().read_only());
    CHECK(!second.document().set_quantity(QStringLiteral("/axes/0/load/payload"), QStringLiteral("21 kg")));
    // what it saves the first one is told of
    REQUIRE(second.save_to(file));
    QTRY_VERIFY(w.window.message().contains(QStringLiteral("changed by another program")));
    // another file is nobody's
    REQUIRE(w.window.save_to(w.folder.filePath(QStringLiteral("b.fulmox"))));
    REQUIRE(second.open_file(file));
    CHECK(!second.document().read_only());
}

TEST_CASE("locks of any kind hide no unsaved work, and what holds none is cleared away") {
    QTemporaryDir folder;
    const QString own = folder.filePath(QStringLiteral("dead.json"));
    {
        const Recovery session(folder.path());
        write(own, "{}");
        QFile::remove(own);
    }
    const QByteArray work =
        "{\"file\": \"\", \"project\": " + QByteArray::fromStdString(Json(write_project(demo())).dump()) + "}";
    for (const QByteArray& lock :
        {QByteArray(), QByteArray("1\nfulmox\nsome-other-machine\n\n\n"), QByteArray("garbage")}) {
        write(own, work);
        write(own + QStringLiteral(".lock"), lock);
        const Recovery next(folder.path());
        REQUIRE(next.leftovers().size() == 1);
        REQUIRE(Recovery::load(next.leftovers()[0]));
        Recovery::discard(next.leftovers()[0]);
    }
    // halves of files, locks and notes of sessions that ended; a file of the user's own stays
    const QString project = folder.filePath(QStringLiteral("p/axis.fulmox"));
    QDir(folder.path()).mkdir(QStringLiteral("p"));
    write(project + QStringLiteral(".AbCdEf"), "half");
    write(project + QStringLiteral(".backup2"), "mine");
    write(own + QStringLiteral(".lock"), "");
    write(own + QStringLiteral(".XyZabc"), "half");
    write(own + QStringLiteral(".writing"), QStringLiteral("{\"file\": \"%1\", \"since\": %2}")
                                                .arg(project)
                                                .arg(QDateTime::currentMSecsSinceEpoch())
                                                .toUtf8());
    {
        const Recovery next(folder.path());
        CHECK(next.leftovers().empty());
        CHECK(QDir(folder.filePath(QStringLiteral("p"))).entryList(QDir::Files) ==
              QStringList{QStringLiteral("axis.fulmox.backup2")});
    }
    CHECK(QDir(folder.path()).entryList(QDir::Files | QDir::Hidden).isEmpty());
}

TEST_CASE("a full disk: pictures, tables and unsaved work say so") {
    Window w;
    w.click_page(2);
    w.click_page(3);
    w.settle();
    Plot* plot = w.window.findChild<TorquePlot*>();
    REQUIRE(plot);
    HowMoves* moves = w.window.findChild<HowMoves*>();
    REQUIRE(moves);
    const auto place = [&](const char* name) { return w.folder.filePath(QLatin1String(name)); };
    for (const char* name : {"a.svg", "a.pdf", "a.png", "a.csv"}) CHECK(plot->export_to(place(name)).isEmpty());
    CHECK(bytes_in(place("a.pdf")).startsWith("%PDF"));
    w.document().set_quantity(QStringLiteral("/axes/0/load/payload"), QStringLiteral("21 kg"));
    {
        FullDisk full;
        for (const char* name : {"b.svg", "b.pdf", "b.png", "b.csv", "a.csv"}) {
            INFO(name);
            CHECK(plot->export_to(place(name)).contains(QStringLiteral("could not be saved")));
        }
        moves->export_motion(place("m.csv"));
        CHECK(!w.window.keep_now());
        CHECK(w.window.message().contains(QStringLiteral("cannot be kept safe")));
    }
    CHECK(bytes_in(place("a.csv")).size() > 1000); // the old one is whole
    CHECK(!QFile::exists(place("b.svg")));
    CHECK(!QFile::exists(place("m.csv")));
    // a name without its ending does not write over a file unasked
    write(place("motion.csv"), "mine");
    bool asked = false;
    moves->confirm_overwrite = [&](const QString&) {
        asked = true;
        return false;
    };
    moves->export_motion(place("motion"));
    CHECK(asked);
    CHECK(bytes_in(place("motion.csv")) == "mine");
}

TEST_CASE("the version and the help need no display") {
    for (const char* word : {"--version", "--help"}) {
        QProcess process;
        QProcessEnvironment bare = QProcessEnvironment::systemEnvironment();
        for (const char* name : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}) bare.remove(QLatin1String(name));
        process.setProcessEnvironment(bare);
        process.start(qEnvironmentVariable("FULMOX_BINARY"), {QLatin1String(word)});
        REQUIRE(process.waitForFinished(hanging));
        CHECK(process.exitStatus() == QProcess::NormalExit);
        CHECK(process.exitCode() == 0);
        CHECK(process.readAllStandardOutput().contains("fulmox"));
    }
}

TEST_CASE("kept work that cannot be read hides none that can, and can be put away") {
    QTemporaryDir folder;
    {
        const Recovery session(folder.path());
        Recovery own(folder.path());
        Machine m = demo();
        m.name = "kept";
        REQUIRE(own.keep(m, QString(), {}).isEmpty());
    }
    QTest::qWait(20);
    QFile half(folder.filePath(QStringLiteral("half.json")));
    REQUIRE(half.open(QIODevice::WriteOnly));
    half.write("{\"project\": \"{");
    half.close();
    MainWindow window(folder.path());
    window.show();
    QTRY_VERIFY(window.message().contains(QStringLiteral("unsaved work")));
    const auto press = [&](const char* text) {
        for (QPushButton* b : window.findChildren<QPushButton*>())
            if (b->isVisible() && b->text() == QString::fromUtf8(text)) return QTest::mouseClick(b, Qt::LeftButton);
        FAIL(text);
    };
    press("Bring it back");
    CHECK(window.windowTitle().contains(QStringLiteral("kept")));
    MainWindow next(folder.path());
    next.show();
    QTRY_VERIFY(next.message().contains(QStringLiteral("unsaved work")));
    for (QPushButton* b : next.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QStringLiteral("Bring it back")) {
            QTest::mouseClick(b, Qt::LeftButton);
            break;
        }
    CHECK(next.message().contains(QStringLiteral("could not be read")));
    CHECK(next.message().contains(half.fileName()));
    for (QPushButton* b : next.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QStringLiteral("Discard it")) {
            QTest::mouseClick(b, Qt::LeftButton);
            break;
        }
    CHECK(!half.exists());
}
