// What lies outside the window: a full disk at every place that writes, things dropped on it, a clock that goes back.
#include "app/pages/how_moves.h"
#include "app/parts/shelf_view.h"
#include "app/plots/plot.h"
#include "app/quick_report.h"
#include "app/results/screw_view.h"
#include "tests/app/full_disk.h"
#include "tests/app/own_files.h"
#include "tests/app/parts_page.h"
#include "tests/app/window.h"
#include "tests/demo.h"

#include <QDir>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QFile>
#include <QMimeData>
#include <QUrl>
#include <sys/stat.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

void set_time(const QString& file, const QDateTime& time) {
    QFile f(file);
    REQUIRE(f.open(QIODevice::ReadWrite));
    REQUIRE(f.setFileTime(time, QFileDevice::FileModificationTime));
}

PartLists one_gearhead(const std::string& name) {
    PartLists parts = gearheads(1);
    parts.gearheads[0].name = name;
    return parts;
}

// Dropped on it as a window system does: entered first, and only what is taken is let go.
bool drop(QWidget* on, const QMimeData& held) {
    QDragEnterEvent enters(QPoint(20, 20), Qt::CopyAction, &held, Qt::LeftButton, Qt::NoModifier);
    enters.ignore();
    QApplication::sendEvent(on, &enters);
    QDropEvent drops(QPointF(20, 20), Qt::CopyAction, &held, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(on, &drops); // also where it was not taken
    QApplication::processEvents();
    return enters.isAccepted();
}

bool drop_file(QWidget* on, const QString& file) {
    QMimeData held;
    held.setUrls({QUrl::fromLocalFile(file)});
    return drop(on, held);
}

} // namespace

TEST_CASE("a full disk at every place that writes: said, and what was there is whole") {
    NoLibrary none;
    Window w;
    w.click_page(4);
    w.settle();
    struct Place {
        const char* name;
        std::function<QString(const QString&)> write;
    };
    auto* plot = [&]() -> Plot* {
        for (Plot* p : w.window.findChildren<Plot*>())
            if (p->isVisible()) return p;
        return nullptr;
    }();
    REQUIRE(plot);
    QTest::mouseClick(cards(w).card(CardOf::screw), Qt::LeftButton);
    w.settle();
    ScrewView& screw = *[&] {
        auto* found = w.window.findChild<ScrewView*>();
        REQUIRE(found);
        return found;
    }();
    w.click_page(2);
    auto* moves = w.window.findChild<HowMoves*>();
    REQUIRE(moves);
    moves->confirm_overwrite = [](const QString&) { return true; };
    const std::vector<Place> places{
        {"p.png", [&](const QString& f) { return plot->export_to(f); }},
        {"p.svg", [&](const QString& f) { return plot->export_to(f); }},
        {"p.pdf", [&](const QString& f) { return plot->export_to(f); }},
        {"p.csv", [&](const QString& f) { return plot->export_to(f); }},
        {"s.dxf", [&](const QString& f) { return screw.export_to(f); }},
        {"s.svg", [&](const QString& f) { return screw.export_to(f); }},
        {"r.pdf", [&](const QString& f) { return write_report(w.document(), f); }},
        {"m.csv",
            [&](const QString& f) {
                moves->export_motion(f, 1e-3);
                return said(w);
            }},
        {"w.fulmox", [&](const QString& f) { return save_project(f, w.document().machine()); }},
    };
    for (const Place& each : places) {
        INFO(each.name);
        const QString file = w.folder.filePath(QString::fromLatin1(each.name));
        put(file, "what was there");
        QString why;
        {
            FullDisk full;
            why = each.write(file);
        }
        INFO(why.toStdString());
        CHECK(why.contains(QStringLiteral("could not be saved")));
        CHECK(!why.contains(QStringLiteral("Unknown error")));
        CHECK(bytes_in(file) == "what was there");
        QDir folder(w.folder.path());
        CHECK(folder.entryList({QString::fromLatin1(each.name) + QStringLiteral(".*")}, QDir::Files | QDir::Hidden)
                  .isEmpty());
        each.write(file); // and when there is room again
        CHECK(bytes_in(file) != "what was there");
    }
    // the library: of parts, of motors
    const PartLists many = gearheads(20);
    REQUIRE(part_shelf().keep(QStringLiteral("Mine"), one_gearhead("First")).isEmpty());
    REQUIRE(part_shelf().own().size() == 1);
    const QString list = part_shelf().own()[0].file;
    const QByteArray held = bytes_in(list);
    REQUIRE(motor_library().add(demo().axes[0].motor).isEmpty());
    const QByteArray motors = bytes_in(motor_library().file());
    Motor another = demo().axes[0].motor;
    another.name = "Another";
    QString kept, beside, added;
    {
        FullDisk full;
        kept = part_shelf().keep(QStringLiteral("Mine"), many);
        part_shelf().keep_beside(QStringLiteral("Mine"), std::make_shared<PartLists>(many),
            [&](const QString& wrong) { beside = wrong.isEmpty() ? QStringLiteral("kept") : wrong; });
        REQUIRE(QTest::qWaitFor([&] { return !beside.isEmpty(); }, hanging));
        added = motor_library().add(another);
    }
    for (const QString& why : {kept, beside, added}) {
        INFO(why.toStdString());
        CHECK(why.contains(QStringLiteral("could not be saved")));
    }
    CHECK(bytes_in(list) == held);
    CHECK(part_shelf().own()[0].parts->gearheads.size() == 1);
    CHECK(bytes_in(motor_library().file()) == motors);
    CHECK(motor_library().motors().size() == 1);
    CHECK(QDir(part_shelf().folder()).entryList(QDir::Files | QDir::Hidden).size() == 1);
    CHECK(motor_library().add(another).isEmpty());
    CHECK(motor_library().motors().size() == 2);
    // unsaved work that cannot be kept safe is said too
    const Recovery session(w.folder.filePath(QStringLiteral("full")));
    FullDisk full;
    Recovery& keeps = const_cast<Recovery&>(session);
    CHECK(keeps.keep(demo(), {}).contains(QStringLiteral("could not be saved")));
}

TEST_CASE("what is dropped on the window is opened, or refused by name; nothing is lost by it") {
    NoLibrary none;
    Window w;
    const QString project = w.folder.filePath(QStringLiteral("dropped.fulmox"));
    Machine m = demo();
    m.name = "Dropped";
    REQUIRE(save_project(project, m).isEmpty());
    const auto name = [&] { return w.document().machine().name; };
    const std::string before = name();
    // nothing that could be opened
    QMimeData words, far, several;
    words.setText(QStringLiteral("12 kg"));
    far.setUrls({QUrl(QStringLiteral("https://example.invalid/a.fulmox"))});
    CHECK(!drop(&w.window, words));
    CHECK(!drop(&w.window, far));
    CHECK(name() == before);
    const QString pipe = w.folder.filePath(QStringLiteral("pipe.fulmox")),
                  text = w.folder.filePath(QStringLiteral("notes.txt"));
    REQUIRE(::mkfifo(QFile::encodeName(pipe).constData(), 0600) == 0);
    put(text, "no project");
    for (const QString& each : {w.folder.path(), pipe, text, w.folder.filePath(QStringLiteral("gone.fulmox"))}) {
        INFO(each.toStdString());
        CHECK(drop_file(&w.window, each));
        CHECK(w.window.message().contains(QFileInfo(each).fileName()));
        CHECK(name() == before);
    }
    // unsaved work is asked about first
    w.type("/load/payload", "21 kg");
    int asked = 0;
    w.window.confirm_leave = [&] {
        ++asked;
        return MainWindow::Leave::stay;
    };
    CHECK(drop_file(&w.window, project));
    CHECK(asked == 1);
    CHECK(name() == before);
    w.window.confirm_leave = [&] { return MainWindow::Leave::discard; };
    several.setUrls({QUrl::fromLocalFile(project), QUrl::fromLocalFile(text)});
    CHECK(drop(&w.window, several)); // the first of several
    CHECK(name() == "Dropped");
    // a parts list on a table of parts
    ShelfView& shelf = open_shelf(w, CardOf::gearhead, "gearhead");
    CHECK(!drop(&shelf, words));
    CHECK(!drop(&shelf, far));
    CHECK(drop_file(&shelf, pipe));
    CHECK(w.window.message().contains(QStringLiteral("pipe")));
    const QString list = w.folder.filePath(QStringLiteral("list.json"));
    put(list, QByteArray::fromStdString(write_parts("Theirs", one_gearhead("Theirs"))));
    CHECK(drop_file(&shelf, list));
    REQUIRE(QTest::qWaitFor([] { return !part_shelf().keeping() && part_shelf().own().size() == 1; }, hanging));
    CHECK(part_shelf().own()[0].parts->gearheads[0].name == "Theirs");
}

TEST_CASE("a clock that goes back hides no change and removes nothing of the user's") {
    NoLibrary none;
    const QDateTime now = QDateTime::currentDateTime(), past = now.addDays(-400), future = now.addDays(400);
    // catalogues and motors that are older than what stood there
    REQUIRE(part_shelf().keep(QStringLiteral("Mine"), one_gearhead("First")).isEmpty());
    const QString list = part_shelf().own().at(0).file;
    set_time(list, future);
    part_shelf().reload();
    put(list, QByteArray::fromStdString(write_parts("Mine", one_gearhead("Second"))));
    set_time(list, past);
    part_shelf().reload();
    CHECK(part_shelf().own().at(0).parts->gearheads.at(0).name == "Second");
    Motor motor = demo().axes[0].motor;
    REQUIRE(motor_library().add(motor).isEmpty());
    set_time(motor_library().file(), future);
    motor_library().reload();
    motor.name = "Older";
    put(motor_library().file(), QByteArray::fromStdString(write_motors("My motors", {motor})));
    set_time(motor_library().file(), past);
    motor_library().reload();
    REQUIRE(motor_library().motors().size() == 1);
    CHECK(motor_library().motors()[0].name == "Older");
    // a project that another program wrote while the clock stood before
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("a.fulmox"));
    REQUIRE(w.window.save_to(file));
    set_time(file, future);
    QTest::qWait(50);
    Machine theirs = w.document().machine();
    theirs.name = "Theirs";
    put(file, QByteArray::fromStdString(write_project(theirs)));
    set_time(file, past);
    QTRY_VERIFY(w.window.message().contains(QStringLiteral("changed by another program")));
    // work of a session that ended tomorrow, and half of a file written before its note
    const QString folder = w.folder.filePath(QStringLiteral("clock"));
    QString kept;
    {
        Recovery session(folder);
        REQUIRE(session.keep(demo(), file).isEmpty());
        const QStringList there = QDir(folder).entryList({QStringLiteral("*.json")}, QDir::Files);
        REQUIRE(there.size() == 1);
        kept = folder + QLatin1Char('/') + there[0];
        put(kept + QStringLiteral(".copy"), bytes_in(kept));
    }
    QFile::rename(kept + QStringLiteral(".copy"), kept);
    set_time(kept, future);
    const QString mine = file + QStringLiteral(".backup"); // six letters: as a half is named
    put(mine, "mine");
    set_time(mine, past);
    put(kept + QStringLiteral(".writing"),
        QStringLiteral("{\"file\": \"%1\", \"since\": %2}").arg(file).arg(future.toMSecsSinceEpoch()).toUtf8());
    const Recovery next(folder);
    REQUIRE(next.leftovers().size() == 1);
    CHECK(Recovery::load(next.leftovers()[0]));
    CHECK(bytes_in(mine) == "mine");
}
