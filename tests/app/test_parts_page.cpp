// Page 4 by its cards: what else could stand there, the ratio curve, parts lists, the ends of a screw.
#include "app/import_parts.h"
#include "app/part_shelf.h"
#include "app/parts/motor_table.h"
#include "app/parts/part_cards.h"
#include "app/parts/shelf_view.h"
#include "app/plots/ratio_plot.h"
#include "app/results/precision_view.h"
#include "app/results/screw_view.h"
#include "core/files/part_table.h"
#include "core/quantity/format.h"
#include "tests/app/own_files.h"
#include "tests/app/parts_page.h"

#include <QClipboard>
#include <QComboBox>
#include <QDir>
#include <QFile>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTabWidget>
#include <QTableWidget>
#include <QTemporaryDir>
#include <sys/stat.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

QString temporary(QTemporaryDir& folder, const char* name, const QByteArray& text) {
    const QString path = folder.filePath(QString::fromUtf8(name));
    QFile f(path);
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write(text);
    return path;
}

} // namespace

TEST_CASE("each card shows the tightest limit of its part, and decides what stands below, by mouse and keys") {
    Window w;
    PartCards& row = cards(w);
    for (const CardOf of : {CardOf::motor, CardOf::coupling, CardOf::brake, CardOf::drive, CardOf::screw}) {
        const PartCard* card = row.card(of);
        REQUIRE(card);
        const Assessment& a = w.document().assessment();
        QString expected;
        for (const std::size_t i : by_tightness(a.limits))
            if (card_of(a.limits[i].key) == of) {
                expected = QString::fromStdString(a.limits[i].label);
                break;
            }
        INFO(card->accessibleName().toStdString());
        CHECK(card->says().endsWith(expected));
        CHECK(!expected.isEmpty());
    }
    CHECK(row.card(CardOf::coupling)->part() == QStringLiteral("Lift coupling"));
    CHECK(row.card(CardOf::brake)->part() == QStringLiteral("in the motor"));
    // every limit has a card, and every card its own tabs
    QTabWidget* tabs = nullptr;
    for (QTabWidget* t : w.window.findChildren<QTabWidget*>())
        if (t->isVisible()) tabs = t;
    REQUIRE(tabs);
    const auto shown = [&] {
        QStringList out;
        for (int i = 0; i < tabs->count(); ++i)
            if (tabs->isTabVisible(i)) out << tabs->tabText(i);
        return out;
    };
    CHECK(shown().contains(QStringLiteral("Datasheet")));
    CHECK(!shown().contains(QStringLiteral("Coupling catalogue")));
    // by keys: Tab to the card, Enter
    row.card(CardOf::coupling)->setFocus();
    QTest::keyClick(row.card(CardOf::coupling), Qt::Key_Return);
    w.settle();
    CHECK(shown() == QStringList{QStringLiteral("Coupling catalogue"), QStringLiteral("Coupling")});
    // the way from a field opens its card
    w.window.go_to(QStringLiteral("/axes/0/mechanism/ends/drive_end/seat_diameter"));
    w.settle();
    CHECK(row.current() == CardOf::screw);
    CHECK(shown() == QStringList{QStringLiteral("Screw ends")});
    // an axis without a screw has no such card, and falls back to the motor
    w.document().select_axis(1);
    w.settle();
    CHECK(!row.card(CardOf::screw));
    CHECK(row.current() == CardOf::motor);
    // a linear motor has neither gearhead nor coupling nor brake of its own
    w.document().select_axis(7);
    w.settle();
    for (const CardOf of : {CardOf::gearhead, CardOf::coupling, CardOf::brake}) CHECK(!row.card(of));
}

TEST_CASE("a gearhead is taken from the catalogue by a key, undone, and what the axis sets stays") {
    Window w;
    w.document().select_axis(1);
    ShelfView& s = open_shelf(w, CardOf::gearhead, "gearhead");
    CHECK(s.model().rowCount() >= 200);
    CHECK(s.model().counts().suitable > 0);
    const Axis before = w.document().axis();
    s.table().setFocus();
    s.table().setCurrentIndex(s.table().model()->index(0, 0));
    const std::string name = s.table().model()->index(0, ShelfModel::name).data().toString().toStdString();
    QTest::keyClick(&s.table(), Qt::Key_Return);
    w.settle();
    CHECK(w.document().axis().stages.size() == before.stages.size());
    CHECK(w.document().axis().stages[0].name == name);
    CHECK(w.document().axis().stages[0].radial_load.text == before.stages[0].radial_load.text);
    // the one that stood there, typed by hand, is among the project's own
    REQUIRE(w.document().machine().gearheads.size() == 1);
    CHECK(w.document().machine().gearheads[0].name == before.stages[0].name);
    REQUIRE(QTest::qWaitFor([&] { return !s.model().judging(); }, hanging));
    // what the row says of it is what the ledger says now
    const Assessment& a = w.document().assessment();
    for (int r = 0; r < s.model().rowCount(); ++r)
        if (s.model().part_name(r) == name) {
            std::vector<Limit> limits = a.limits;
            std::erase_if(limits, [](const Limit& l) { return !tells_of(part_kind("gearhead"), l.key); });
            CHECK(s.model().candidate(r)->key == limits[by_tightness(limits).front()].key);
        }
    w.document().undo_stack().undo();
    CHECK(w.document().axis() == before);
    CHECK(w.document().machine().gearheads.empty());
    // one more stage
    w.settle();
    auto* stage = s.findChild<QSpinBox*>();
    REQUIRE(stage);
    CHECK(stage->maximum() == static_cast<int>(before.stages.size()) + 1);
    stage->setValue(2);
    REQUIRE(QTest::qWaitFor([&] { return !s.model().judging(); }, hanging));
    s.table().setCurrentIndex(s.table().model()->index(0, 0));
    s.take_current();
    CHECK(w.document().axis().stages.size() == before.stages.size() + 1);
}

TEST_CASE("filter, side by side, and a part that its catalogue has otherwise") {
    NoLibrary none;
    Window w;
    ShelfView& s = open_shelf(w, CardOf::coupling, "coupling");
    auto* words = w.child<QLineEdit>("shelf-words-coupling");
    QTest::keyClicks(words, QStringLiteral("bittern"));
    w.settle();
    CHECK(s.table().model()->rowCount() == 13);
    QTest::keyClicks(words, QStringLiteral(" nothing of the kind"));
    CHECK(s.table().model()->rowCount() == 0);
    QTest::keyClick(&s.table(), Qt::Key_Return); // on a row that is none
    QTest::keyClick(&s.table(), Qt::Key_Space);
    words->clear();
    auto* beside = w.child<QTableWidget>("beside-coupling");
    CHECK(!beside->isVisible());
    s.table().setFocus();
    QString refused;
    QObject::connect(
        &w.document(), &fulmox::app::Document::refused, beside, [&](const QString& why) { refused = why; });
    for (int i = 0; i < 5; ++i) {
        s.table().setCurrentIndex(s.table().model()->index(i, 0));
        QTest::keyClick(&s.table(), Qt::Key_Space);
    }
    w.settle();
    CHECK(beside->isVisible());
    CHECK(beside->columnCount() == 5); // a head and four of them
    CHECK(refused.contains(QStringLiteral("4 parts")));
    bool torque = false;
    for (int r = 0; r < beside->rowCount(); ++r)
        torque = torque || beside->item(r, 0)->text() == QStringLiteral("Allowable torque");
    CHECK(torque);
    // taken, then changed by hand: it is pointed out and nothing is swapped
    s.table().setCurrentIndex(s.table().model()->index(2, 0));
    s.take_current();
    w.settle();
    CHECK(s.differs().isEmpty());
    const std::string name = w.document().axis().coupling.name;
    w.document().edit(
        QStringLiteral("x"), [](Machine& m) { m.axes[0].coupling.rated_torque = Quantity<Kind::torque>("1.5 N·m"); });
    w.settle();
    CHECK(s.differs().contains(QStringLiteral("Allowable torque 1.5 N·m here")));
    CHECK(w.document().axis().coupling.rated_torque.si == 1.5);
    // the bores, which the axis sets, make no difference
    w.document().undo_stack().undo();
    w.document().edit(
        QStringLiteral("x"), [](Machine& m) { m.axes[0].coupling.driving_bore = Quantity<Kind::length>("13 mm"); });
    CHECK(s.differs().isEmpty());
    CHECK(w.document().axis().coupling.name == name);
}

TEST_CASE("what has no price stands last, whichever way a catalogue is ordered") {
    NoLibrary none;
    Window w;
    w.document().edit(QStringLiteral("two without a price"), [](Machine& m) {
        m.couplings.push_back(Coupling{});
        m.couplings.back().name = "Of no price";
        m.motors.push_back(m.axes[0].motor);
        m.motors.back().name = "Motor of no price";
        m.motors.back().price = {};
    });
    const auto ends = [&](QTableView& table, int column, int name) {
        for (const Qt::SortOrder order : {Qt::AscendingOrder, Qt::DescendingOrder}) {
            table.sortByColumn(column, order);
            const int last = table.model()->rowCount() - 1;
            const auto price = [&](int row) { return table.model()->index(row, column).data().toString(); };
            CHECK(price(0) != QStringLiteral("–"));
            CHECK(price(0).toDouble() > 0);
            CHECK(price(last) == QStringLiteral("–"));
            CHECK(table.model()
                      ->index(last, name)
                      .data()
                      .toString()
                      .contains(QStringLiteral("of no price"), Qt::CaseInsensitive));
        }
        table.sortByColumn(column, Qt::AscendingOrder);
        CHECK(table.model()->index(0, column).data().toDouble() <
              table.model()->index(1, column).data().toDouble() + 1e-9);
    };
    ShelfView& shelf = open_shelf(w, CardOf::coupling, "coupling");
    // another part comes, and the one that is current stays so
    auto* table = w.child<QTableView>("shelf-coupling");
    table->setCurrentIndex(table->model()->index(5, ShelfModel::name));
    const QString current = table->currentIndex().data().toString();
    const int rows = shelf.model().rowCount();
    w.document().edit(QStringLiteral("one more"), [](Machine& m) {
        m.couplings.insert(m.couplings.begin(), Coupling{});
        m.couplings.front().name = "Also of no price";
    });
    REQUIRE(
        QTest::qWaitFor([&] { return shelf.model().rowCount() == rows + 1 && shelf.model().candidate(0); }, hanging));
    CHECK(table->currentIndex().sibling(table->currentIndex().row(), ShelfModel::name).data().toString() == current);
    ends(*w.child<QTableView>("shelf-coupling"), ShelfModel::price, ShelfModel::name);
    QTest::mouseClick(cards(w).card(CardOf::motor), Qt::LeftButton);
    w.settle();
    ends(*w.child<QTableView>("catalogue"), MotorModel::price, MotorModel::name);
}

TEST_CASE("the ratio curve marks what can be had, and a click takes it") {
    Window w;
    w.document().select_axis(1);
    ShelfView& s = open_shelf(w, CardOf::gearhead, "gearhead");
    auto* plot = w.window.findChild<RatioPlot*>();
    REQUIRE(plot);
    REQUIRE(QTest::qWaitFor([&] { return !plot->calculating() && !plot->curve().points.empty(); }, hanging));
    CHECK(plot->curve().present == w.document().axis().stages[0].ratio.si);
    REQUIRE(plot->curve().best);
    for (const RatioPoint& p : plot->curve().points)
        if (std::isfinite(p.motor_share())) CHECK(plot->curve().best->motor_share() <= p.motor_share() * (1 + 1e-9));
    CHECK(plot->as_table().rows.size() == plot->curve().points.size());
    const auto says_why = [&] {
        for (int i = 0; i < plot->itemCount(); ++i)
            if (const auto* text = qobject_cast<QCPItemText*>(plot->item(i)))
                if (text->text().contains(QStringLiteral("waits for"))) return text->text();
        return QString();
    };
    CHECK(says_why().isEmpty());
    // a no-load torque above all losses at great ratios: the torques end there, and the plot says why
    w.document().select_axis(3);
    REQUIRE(QTest::qWaitFor(
        [&] { return !plot->calculating() && !std::isfinite(plot->curve().points.back().peak_torque); }, hanging));
    CHECK(std::isfinite(plot->curve().points.back().speed));
    CHECK(says_why().contains(QStringLiteral("No-load torque")));
    w.document().select_axis(1);
    REQUIRE(QTest::qWaitFor(
        [&] {
            return !plot->calculating() && plot->curve().present == w.document().axis().stages[0].ratio.si &&
                   !s.model().judging() && s.model().candidate(0);
        },
        hanging));
    REQUIRE(!plot->offers().empty());
    plot->replot(QCustomPlot::rpImmediateRefresh);
    const auto best = std::find_if(
        plot->offers().begin(), plot->offers().end(), [](const RatioPlot::Offer& o) { return carries(o.state); });
    REQUIRE(best != plot->offers().end());
    const std::string name = best->name;
    QTest::mouseClick(plot, Qt::LeftButton, {}, plot->place_of(*best).toPoint());
    w.settle();
    CHECK(w.document().axis().stages[0].name == name);
    // beside the marks a click does nothing, and neither does a drag
    const Axis after = w.document().axis();
    QTest::mouseClick(plot, Qt::LeftButton, {}, QPoint(plot->width() / 2, 60));
    CHECK(w.document().axis() == after);
    // what was said of another state does not stay: without a segment nothing is known
    w.document().edit(QStringLiteral("x"), [](Machine& m) { m.axes[1].cycle.segments.clear(); });
    REQUIRE(QTest::qWaitFor([&] { return !plot->calculating(); }, hanging));
    w.settle();
    CHECK(!plot->missing().isEmpty());
    CHECK(s.model().rowCount() >= 200);
}

TEST_CASE("a parts list of another program becomes a catalogue, corrected where it was not understood") {
    NoLibrary none;
    Window w;
    open_shelf(w, CardOf::gearhead, "gearhead");
    QTemporaryDir folder;
    const QString file = temporary(folder, "list.csv",
        "Price list;;;;\r\nPart number;Gear ratio;Nominal torque;Max. acceleration torque T2B [Nm];Colour\r\n"
        "Q-5;5;12,5;20;red\r\nQ-7;seven;12,5;20;red\r\nQ-10;10;10,5;17;blue\r\n");
    fulmox::app::import_parts(w.document(), file, {}, &w.window);
    auto* dialog = w.window.findChild<ImportParts*>();
    REQUIRE(dialog);
    const auto done = [&] { REQUIRE(QTest::qWaitFor([&] { return !dialog->reading(); }, hanging)); };
    done();
    auto* problems = dialog->findChild<QPlainTextEdit*>(QStringLiteral("import-problems"));
    auto* found = dialog->findChild<QLabel*>(QStringLiteral("import-found"));
    CHECK(dialog->findChild<QComboBox*>(QStringLiteral("import-kind"))->currentData() == QStringLiteral("gearhead"));
    // a torque without a unit is no number, so that no row can be kept
    CHECK(problems->toPlainText().contains(QStringLiteral("without a unit")));
    CHECK(found->text().startsWith(QStringLiteral("0 of 3")));
    CHECK(!dialog->findChild<QPushButton*>(QStringLiteral("import-project"))->isEnabled());
    auto* unit = dialog->findChild<QLineEdit*>(QStringLiteral("import-unit-2"));
    unit->setText(QStringLiteral("kg")); // of another dimension
    CHECK(unit->isEnabled());
    unit->setText(QStringLiteral("N"));
    unit->setText(QStringLiteral("Nm"));
    QTest::qWait(400);
    done();
    CHECK(found->text().startsWith(QStringLiteral("2 of 3")));
    CHECK(problems->toPlainText().contains(QStringLiteral("line 4, column 2")));
    // a column taken for another field, and the same twice
    auto* colour = dialog->findChild<QComboBox*>(QStringLiteral("import-field-4"));
    colour->setCurrentIndex(colour->findData(QStringLiteral("/listing/note")));
    QTest::qWait(400);
    done();
    QTest::mouseClick(dialog->findChild<QPushButton*>(QStringLiteral("import-project")), Qt::LeftButton);
    w.settle();
    REQUIRE(w.document().machine().gearheads.size() == 2);
    const Stage& q = w.document().machine().gearheads[0];
    CHECK(q.name == "Q-5");
    CHECK(q.rated_torque.si == 12.5);
    CHECK(q.provenance.note == "red");
    CHECK(q.provenance.file == "list.csv");
    CHECK(q.provenance.line == "3");
    CHECK(!q.provenance.date.empty());
    w.document().undo_stack().undo();
    CHECK(w.document().machine().gearheads.empty());
}

TEST_CASE("a catalogue of JSON is read and kept beside the window, and what is wrong with it is said") {
    NoLibrary none;
    Window w;
    open_shelf(w, CardOf::gearhead, "gearhead");
    QTemporaryDir folder;
    const auto import = [&](const QString& file) {
        fulmox::app::import_parts(w.document(), file, {}, &w.window);
        const auto open = [&] { return w.window.findChild<QDialog*>(QStringLiteral("import-catalogue")) != nullptr; };
        REQUIRE(QTest::qWaitFor([&] { return !open() && !part_shelf().keeping(); }, hanging));
        w.settle();
    };
    const PartLists many = gearheads(3000);
    const QByteArray whole = QByteArray::fromStdString(write_parts("Theirs", many));
    import(temporary(folder, "theirs.json", whole));
    REQUIRE(part_shelf().own().size() == 1);
    REQUIRE(QTest::qWaitFor([] { return part_shelf().own()[0].problem.isEmpty(); }, hanging)); // read again
    CHECK(part_shelf().own()[0].parts->gearheads.size() == 3000);
    CHECK(part_shelf().own()[0].parts->gearheads[2999].name == "Stage 2999");
    import(temporary(folder, "half.json", whole.left(whole.size() / 2)));
    CHECK(part_shelf().own().size() == 1);
    CHECK(w.window.message().contains(QStringLiteral("half.json")));
    // stopped: the file is not kept, and the window goes on
    const QString said = w.window.message();
    fulmox::app::import_parts(w.document(), temporary(folder, "stopped.json", whole), {}, &w.window);
    if (auto* dialog = w.window.findChild<QDialog*>(QStringLiteral("import-catalogue"))) {
        auto* stop = dialog->findChild<QPushButton*>(QStringLiteral("import-stop"));
        const bool in_time = stop->isEnabled();
        QTest::mouseClick(stop, Qt::LeftButton);
        REQUIRE(QTest::qWaitFor([&] { return !part_shelf().keeping(); }, hanging));
        w.settle();
        if (in_time) CHECK(!QFile::exists(part_shelf().folder() + QStringLiteral("/stopped.json")));
    }
    CHECK(w.window.message() == said);
    const QString pipe = folder.filePath(QStringLiteral("pipe.json"));
    REQUIRE(::mkfifo(QFile::encodeName(pipe).constData(), 0600) == 0);
    import(pipe);
    CHECK(w.window.message().contains(QStringLiteral("pipe")));
}

TEST_CASE("the library keeps catalogues in the data folder, reads what is put there, and never writes over what it "
          "cannot read") {
    NoLibrary none;
    Window w;
    PartLists parts;
    Stage s;
    s.name = "Mine";
    s.ratio = Quantity<Kind::number>("6");
    parts.gearheads.push_back(s);
    CHECK(part_shelf().keep(QStringLiteral("My <b>parts</b>"), parts).isEmpty());
    REQUIRE(part_shelf().own().size() == 1);
    // again under a name that is taken
    CHECK(part_shelf().keep(QStringLiteral("My <b>parts</b>"), parts).isEmpty());
    REQUIRE(part_shelf().own()[0].parts->gearheads.size() == 2);
    CHECK(part_shelf().own()[0].parts->gearheads[1].name == "Mine (2)");
    // a CSV put there by hand
    QFile csv(part_shelf().folder() + QStringLiteral("/theirs.csv"));
    REQUIRE(csv.open(QIODevice::WriteOnly));
    csv.write("name,ratio,rated torque [N·m]\nTheirs,8,20\nBroken,x,20\n");
    csv.close();
    ShelfView& shelf = open_shelf(w, CardOf::gearhead, "gearhead");
    REQUIRE(part_shelf().own().size() == 2);
    bool theirs = false;
    for (int r = 0; r < shelf.model().rowCount(); ++r) theirs = theirs || shelf.model().part_name(r) == "Theirs";
    CHECK(theirs);
    CHECK(part_shelf().own()[1].problem.contains(QStringLiteral("line 3")));
    // half a file is named, and not written over
    QFile half(part_shelf().own()[0].file);
    REQUIRE(half.open(QIODevice::WriteOnly));
    half.write("{\"format\": \"fulmox-catalogue\", ");
    half.close();
    const QString wrong = part_shelf().keep(QStringLiteral("My <b>parts</b>"), parts);
    CHECK(wrong.contains(QStringLiteral("my-b-parts-b.json")));
    REQUIRE(half.open(QIODevice::ReadOnly));
    CHECK(half.readAll() == "{\"format\": \"fulmox-catalogue\", ");
}

TEST_CASE("the ends of a screw are drawn while they are typed, and exported") {
    Window w;
    PartCards& row = cards(w);
    QTest::mouseClick(row.card(CardOf::screw), Qt::LeftButton);
    w.settle();
    auto* view = w.window.findChild<ScrewView*>();
    REQUIRE(view);
    REQUIRE(view->isVisible());
    CHECK(view->layout_now().missing.empty());
    auto* said = w.child<QLabel>("screw-warnings");
    CHECK(said->text().contains(QStringLiteral("differ")));
    auto* edit = w.type("/mechanism/ends/drive_end/journal_diameter", "14 mm");
    QTest::keyClick(edit, Qt::Key_Return);
    w.settle();
    CHECK(!said->text().contains(QStringLiteral("special coupling")));
    QTemporaryDir folder;
    for (const char* name : {"a.svg", "a.dxf"}) {
        CHECK(view->export_to(folder.filePath(QString::fromUtf8(name))).isEmpty());
        QFile f(folder.filePath(QString::fromUtf8(name)));
        REQUIRE(f.open(QIODevice::ReadOnly));
        CHECK(f.size() > 2000);
    }
    CHECK(view->export_to(folder.filePath(QStringLiteral("a.png"))).contains(QStringLiteral(".svg or .dxf")));
    CHECK(!view->export_to(QStringLiteral("/no/such/place/a.svg")).isEmpty());
    // half typed: the drawing waits and says for what
    w.document().edit(
        QStringLiteral("x"), [](Machine& m) { std::get<Screw>(m.axes[0].mechanism).ends.nut_length = {}; });
    w.settle();
    CHECK(w.child<QLabel>("screw-sums")->text().contains(QStringLiteral("nut or carriage")));
    CHECK(said->text().isEmpty());
}

TEST_CASE("precision: every term and every spring of the assessment is in its table") {
    Window w;
    w.document().select_axis(1);
    PartCards& row = cards(w);
    QTest::mouseClick(row.card(CardOf::precision), Qt::LeftButton);
    w.settle();
    auto* view = w.window.findChild<PrecisionView*>();
    REQUIRE(view);
    REQUIRE(view->isVisible());
    const Assessment& a = w.document().assessment();
    REQUIRE(a.precision);
    REQUIRE(a.stiffness);
    CHECK(view->terms().rowCount() == static_cast<int>(a.precision->terms.size()));
    CHECK(view->springs().rowCount() == static_cast<int>(a.stiffness->springs.size()));
    CHECK(view->terms().rowCount() > 3);
    // what can be reached, by two bodies and by the chain, beside what the motion asks for
    const auto words = [&] {
        QString all;
        for (const QLabel* l : view->findChildren<QLabel*>()) all += l->text() + QLatin1Char('\n');
        return all;
    };
    const auto hertz = [](double f) { return QString::fromStdString(format_number(f, 3)); };
    for (const double f : {a.stiffness->two.antiresonance / 3, a.stiffness->two.antiresonance / 2,
             a.stiffness->antiresonances.front() / 3, a.motion->least_bandwidth(), a.motion->ample_bandwidth()})
        CHECK(words().contains(hertz(f)));
    CHECK(words().contains(QStringLiteral("General servo")));
    // without a rotor nothing is reached, and nothing of it is said
    w.document().edit(QStringLiteral("no rotor"), [](Machine& m) { m.axes[1].motor.rotor_inertia = {}; });
    w.settle();
    CHECK(!words().contains(QStringLiteral("reaches")));
    CHECK(!words().contains(QStringLiteral("schools say")));
    w.document().undo_stack().undo();
    w.settle();
    CHECK(words().contains(QStringLiteral("reaches")));
    // half typed it says what it waits for, and no row stays
    w.document().edit(QStringLiteral("x"), [](Machine& m) { m.axes[1].cycle.segments.clear(); });
    w.settle();
    CHECK(view->terms().rowCount() == 0);
}

TEST_CASE("a list that is pasted is read as a file is, and motors of one's own catalogues stand among the motors") {
    NoLibrary none;
    Window w;
    ShelfView& shelf = open_shelf(w, CardOf::brake, "brake");
    QApplication::clipboard()->setText(QStringLiteral("name\tstatic torque [N·m]\nB1\t4\nB2\tfour\n"));
    shelf.table().setFocus();
    QTest::keyClick(&shelf.table(), Qt::Key_V, Qt::ControlModifier);
    auto* dialog = w.window.findChild<ImportParts*>();
    REQUIRE(dialog);
    REQUIRE(QTest::qWaitFor([&] { return !dialog->reading(); }, hanging));
    CHECK(dialog->table().kind == "brake");
    CHECK(dialog->findChild<QLabel*>(QStringLiteral("import-found"))->text().startsWith(QStringLiteral("1 of 2")));
    dialog->reject();
    QApplication::processEvents();
    PartLists parts;
    Motor m = w.document().axis().motor;
    m.name = "Theirs 1";
    parts.motors.push_back(m);
    CHECK(part_shelf().keep(QStringLiteral("theirs"), parts).isEmpty());
    cards(w).select(CardOf::motor);
    w.settle();
    auto* table = w.window.findChild<MotorTable*>();
    REQUIRE(table);
    MotorModel& model = table->model_of_motors();
    int found = 0;
    for (int row = 0; row < model.rowCount(); ++row) found += model.motor(row).name == "Theirs 1";
    CHECK(found == 1);
    // it goes with its file, and not by a key
    QString refused;
    QObject::connect(table, &MotorTable::refused, table, [&](const QString& why) { refused = why; });
    table->show_motor(QStringLiteral("Theirs 1"));
    QTest::keyClick(table, Qt::Key_Delete);
    CHECK(refused.contains(QStringLiteral("Theirs 1")));
    // the sheet of a gearhead is one press away
    w.document().select_axis(1);
    ShelfView& gearheads = open_shelf(w, CardOf::gearhead, "gearhead");
    for (QPushButton* b : gearheads.findChildren<QPushButton*>())
        if (b->text() == QStringLiteral("Sheet")) QTest::mouseClick(b, Qt::LeftButton);
    w.settle();
    CHECK(w.child<QPushButton>("page/1")->isChecked());
}

TEST_CASE("a nut that turns is planned where its screw is, and is drawn beside it") {
    Window w;
    PartCards& row = cards(w);
    QTest::mouseClick(row.card(CardOf::screw), Qt::LeftButton);
    w.settle();
    CHECK(!w.window.findChild<QuantityEdit*>(w.path("/mechanism/nut_body/seat_diameter")));
    w.document().set_choice(w.path("/mechanism/turns"), 1);
    w.settle();
    auto* says = w.child<QLabel>("screw-warnings");
    CHECK(says->text().contains(QStringLiteral("holds the screw still")) ==
          !(w.screw().ends.drive_end.flats.given() || w.screw().ends.far_end.flats.given()));
    auto* picture = w.child<ScrewPicture>("screw-picture");
    const QString before = picture->accessibleName();
    w.type("/mechanism/nut_body/seat_diameter", "50 mm");
    w.type("/mechanism/nut_body/bearing_width", "30 mm");
    w.settle();
    CHECK(picture->accessibleName() != before);
    CHECK(picture->accessibleName().contains(QStringLiteral("Ø50")));
}

TEST_CASE("a large catalogue of one's own is read beside the window, which says so") {
    NoLibrary none;
    REQUIRE(QDir().mkpath(part_shelf().folder()));
    QFile csv(part_shelf().folder() + QStringLiteral("/large.csv"));
    REQUIRE(csv.open(QIODevice::WriteOnly));
    QByteArray text = "name,ratio,rated torque [N·m],peak torque [N·m],inertia [kg·cm²],price\n";
    constexpr int many = 20000;
    for (int i = 0; i < many; ++i)
        text += QStringLiteral("Large %1,%2,%3,%4,0.3,%5\n")
                    .arg(i)
                    .arg(3 + i % 20)
                    .arg(20 + i % 50)
                    .arg(60 + i % 50)
                    .arg(90 + i % 500)
                    .toUtf8();
    while (text.size() <= (1 << 20)) text += QStringLiteral("More %1,5,20,60,0.3,100\n").arg(text.size()).toUtf8();
    csv.write(text);
    csv.close();
    Window w;
    // against what would stop the window for seconds; how long it takes is measured by scripts/bench
    constexpr double most_own = 5000;
    const OwnTime reading_took;
    part_shelf().reload();
    REQUIRE(part_shelf().own().size() == 1);
    CHECK(reading_took.elapsed() < most_own);
    const bool reading = part_shelf().own()[0].problem.contains(QStringLiteral("being read"));
    if (reading) CHECK(part_shelf().own()[0].parts->gearheads.empty());
    REQUIRE(QTest::qWaitFor([] { return part_shelf().own()[0].parts->gearheads.size() >= many; }, hanging));
    CHECK(part_shelf().own()[0].problem.isEmpty());
    // they stand in the table, are judged, and the window goes on meanwhile
    cards(w);
    const OwnTime showing;
    QTest::mouseClick(w.window.findChild<PartCards*>()->card(CardOf::gearhead), Qt::LeftButton);
    QApplication::processEvents();
    auto* shelf = w.window.findChild<ShelfView*>();
    REQUIRE(shelf);
    INFO(showing.elapsed() << " ms");
    CHECK(showing.elapsed() < most_own); // rows are gathered beside the window
    // what is typed meanwhile filters what comes
    auto* words = w.child<QLineEdit>("shelf-words-gearhead");
    auto* table = w.child<QTableView>("shelf-gearhead");
    QTest::keyClicks(words, QStringLiteral("large 19999"));
    // once they are looked through, a word of the filter and another order are there at once
    w.idle();
    REQUIRE(!shelf->model().gathering());
    REQUIRE(shelf->model().candidate(0));
    CHECK(shelf->model().rowCount() > many);
    CHECK(table->model()->rowCount() == 1);
    words->clear();
    const auto within = [&](const char* what, auto act) {
        const OwnTime each;
        act();
        QApplication::processEvents();
        INFO(what << " " << each.elapsed() << " ms");
        CHECK(each.elapsed() < most_own);
    };
    within("a word", [&] { QTest::keyClicks(words, QStringLiteral("g")); });
    within("more of it", [&] { QTest::keyClicks(words, QStringLiteral("e 1")); });
    CHECK(table->model()->rowCount() > 1000);
    CHECK(table->model()->rowCount() < shelf->model().rowCount());
    within("all again", [&] { words->clear(); });
    for (const int column :
        {int(ShelfModel::name), int(ShelfModel::price), ShelfModel::first_field + 1, shelf->model().columnCount() - 1})
        within("an order", [&] { table->sortByColumn(column, Qt::DescendingOrder); });
    // whatever is under way is left off
    w.document().edit(
        QStringLiteral("lighter"), [&](Machine& m) { m.axes[0].load.payload = Quantity<Kind::mass>("2 kg"); });
}
