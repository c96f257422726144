#include "app/bricks/note_line.h"
#include "tests/app/window.h"

#include <QLabel>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

std::vector<LimitRow*> rows_on_screen(Window& w) {
    std::vector<LimitRow*> rows;
    for (LimitRow* r : w.window.findChildren<LimitRow*>())
        if (r->isVisible()) rows.push_back(r);
    std::sort(rows.begin(), rows.end(), [](LimitRow* a, LimitRow* b) { return a->y() < b->y(); });
    return rows;
}

} // namespace

TEST_CASE("the ledger shows every limit, tightest first or in working order") {
    Window w;
    const Assessment& a = w.document().assessment();
    auto rows = rows_on_screen(w);
    REQUIRE(rows.size() == a.limits.size());
    const auto order = by_tightness(a.limits);
    for (std::size_t i = 0; i < rows.size(); ++i) CHECK(rows[i]->key().toStdString() == a.limits[order[i]].key);
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->text() == QStringLiteral("tightest first")) QTest::mouseClick(b, Qt::LeftButton);
    QApplication::processEvents();
    rows = rows_on_screen(w);
    for (std::size_t i = 0; i < rows.size(); ++i) CHECK(rows[i]->key().toStdString() == a.limits[i].key);
}

TEST_CASE("a row opens with a click or Space and shows working, source and headroom") {
    Window w;
    auto* row = w.child<LimitRow>("limit/critical_speed");
    QTest::mouseClick(row, Qt::LeftButton, Qt::NoModifier, QPoint(40, 12));
    QApplication::processEvents();
    auto* details = row->findChild<QLabel*>();
    REQUIRE(details);
    CHECK(details->isVisible());
    const QString text = details->text();
    CHECK(text.contains(QStringLiteral("λ²/L²")));
    const auto close_up = [](QString s) {
        return s.remove(QLatin1Char(' '));
    }; // sums are spaced so that they can break
    CHECK(close_up(text).contains(
        close_up(QString::fromStdString(w.limit("critical_speed").working[0].substituted()).toHtmlEscaped())));
    CHECK(text.contains(QStringLiteral("Euler–Bernoulli")));
    CHECK(text.contains(QStringLiteral("lead")));
    QTest::keyClick(row, Qt::Key_Space);
    QApplication::processEvents();
    CHECK(!details->isVisible());
}

TEST_CASE("an open row follows the typing") {
    Window w;
    auto* row = w.child<LimitRow>("limit/inertia_ratio");
    QTest::mouseClick(row, Qt::LeftButton, Qt::NoModifier, QPoint(40, 12));
    const QString before = row->findChild<QLabel*>()->text();
    w.type("/load/carriage_mass", "30 kg");
    CHECK(row->findChild<QLabel*>()->text() != before);
    CHECK(row->accessibleName().contains(QStringLiteral("tight")));
}

TEST_CASE("the state is told by word, not by colour alone") {
    Window w;
    for (LimitRow* r : rows_on_screen(w)) {
        const Limit& l = w.limit(r->key().toStdString().c_str());
        CHECK(r->accessibleName().contains(QString::fromUtf8(state_words(l.state))));
    }
}

TEST_CASE("what is missing is listed and leads to its field") {
    Window w;
    w.document().edit(QStringLiteral("x"), [](Machine& m) { std::get<Screw>(m.axes[0].mechanism).lead = {}; });
    w.click_page(3);
    QApplication::processEvents();
    NoteLine* line = nullptr;
    for (NoteLine* l : w.window.findChild<Ledger*>()->findChildren<NoteLine*>())
        if (l->isVisible() && l->path() == w.path("/mechanism/lead")) line = l;
    REQUIRE(line);
    CHECK(line->text().contains(QStringLiteral("missing")));
    QTest::mouseClick(line, Qt::LeftButton);
    auto* e = qobject_cast<QuantityEdit*>(QApplication::focusWidget());
    REQUIRE(e);
    CHECK(e->path() == w.path("/mechanism/lead"));
    for (const Limit& l : w.document().assessment().limits) {
        INFO(l.key);
        // which ask for no lead
        const bool by_itself = l.key == "coupling_alignment" || l.key == "coupling_bores" || l.key == "coupling_range";
        CHECK((l.state == LimitState::cannot_say) == !by_itself);
    }
}

TEST_CASE("the policy in the top bar judges the axis, and undo takes it back") {
    Window w;
    auto* policy = w.child<QComboBox>("policy");
    policy->setFocus();
    QTest::keyClick(policy, Qt::Key_Down);
    QApplication::processEvents();
    CHECK(w.document().axis().policy == "Stiff start");
    CHECK(w.limit("inertia_ratio").state == LimitState::over);
    QTest::keyClick(&w.window, Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document().axis().policy == "General servo");
    CHECK(policy->currentText() == QStringLiteral("General servo"));
}

TEST_CASE("reasons of every axis follow the units of the project") {
    Window w;
    const auto reason = [&](int axis) {
        return w.document().assessment(axis).limit("peak_torque")->reason.in(w.document().machine().unit_system);
    };
    CHECK(reason(1).find("N·m") != std::string::npos);
    w.document().set_choice(QStringLiteral("/unit_system"), 1);
    for (const int axis : {0, 1}) {
        CHECK(reason(axis).find("N·m") == std::string::npos);
        CHECK(reason(axis).find("in") != std::string::npos);
    }
    w.document().undo_stack().undo();
    CHECK(reason(1).find("N·m") != std::string::npos);
}

TEST_CASE("an open row is no wider than the ledger") {
    Window w;
    for (const char* key : {"peak_torque", "continuous_loss", "critical_speed", "buckling"}) {
        auto* row = w.child<QWidget>((std::string("limit/") + key).c_str());
        QTest::mouseClick(row, Qt::LeftButton, {}, {20, 8});
        w.settle();
        INFO(key << " " << row->width());
        CHECK(row->mapTo(&w.window, QPoint(row->width(), 0)).x() <= w.window.width() - 6);
        CHECK(row->width() <= 296);
        QTest::mouseClick(row, Qt::LeftButton, {}, {20, 8});
    }
}

TEST_CASE("what is pressed in an open row makes the ledger no wider") {
    Window w;
    for (const char* field : {"/coupling/top_speed", "/motor/brake_apply_time", "/mechanism/yield_strength"})
        w.document().set_quantity(w.path(field), {});
    w.document().set_quantity(w.path("/accuracy/asked"), QStringLiteral("0.1 mm"));
    w.settle();
    int looked = 0;
    for (LimitRow* row : rows_on_screen(w)) {
        if (w.limit(row->key().toStdString().c_str()).state != LimitState::cannot_say) continue;
        for (const bool accepted : {false, true}) {
            if (!accepted) {
                row->setFocus();
                QTest::keyClick(row, Qt::Key_Space);
            } else
                QTest::mouseClick(row->findChild<QPushButton*>(QStringLiteral("accept")), Qt::LeftButton);
            w.settle();
            INFO(row->key().toStdString() << ", accepted " << accepted << ": " << row->width());
            CHECK(row->mapTo(&w.window, QPoint(row->width(), 0)).x() <= w.window.width() - 6);
            for (const QPushButton* b : row->findChildren<QPushButton*>())
                CHECK(b->width() >= b->fontMetrics().horizontalAdvance(b->text()) + 8);
            ++looked;
        }
        row->setFocus();
        QTest::keyClick(row, Qt::Key_Space);
        w.settle();
    }
    CHECK(looked >= 4);
}

TEST_CASE("an unknown is accepted in the ledger, kept in the file, and taken back") {
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("accepted.fulmox"));
    w.document().set_quantity(w.path("/coupling/top_speed"), {});
    w.document().set_quantity(w.path("/coupling/parallel_allowed"), {});
    w.settle();
    REQUIRE(w.limit("coupling_speed").state == LimitState::cannot_say);
    REQUIRE(w.limit("coupling_alignment").state == LimitState::cannot_say);
    const auto button = [&](const char* row, const char* name) {
        auto* found = w.child<LimitRow>(row)->findChild<QPushButton*>(QString::fromLatin1(name));
        REQUIRE(found);
        return found;
    };
    auto* row = w.child<LimitRow>("limit/coupling_speed");
    CHECK(!row->findChild<QPushButton*>(QStringLiteral("accept"))); // not before it is opened
    row->setFocus();
    QTest::keyClick(row, Qt::Key_Space);
    w.settle();
    REQUIRE(button("limit/coupling_speed", "accept")->isVisible());

    button("limit/coupling_speed", "accept")->setFocus(); // by keys alone
    QTest::keyClick(button("limit/coupling_speed", "accept"), Qt::Key_Space);
    w.settle();
    CHECK(w.limit("coupling_speed").accepted);
    CHECK(w.limit("coupling_speed").state == LimitState::cannot_say);
    CHECK(!w.limit("coupling_alignment").accepted);
    CHECK(row->accessibleName().contains(QStringLiteral("accepted")));

    QTest::mouseClick(button("limit/coupling_speed", "accept"), Qt::LeftButton); // "No longer accept"
    w.settle();
    CHECK(!w.limit("coupling_speed").accepted);
    QTest::mouseClick(button("limit/coupling_speed", "accept all"), Qt::LeftButton);
    w.settle();
    CHECK(w.limit("coupling_speed").accepted);
    CHECK(w.limit("coupling_alignment").accepted);
    REQUIRE(w.window.save_to(file));
    w.document().undo_stack().undo();
    w.settle();
    CHECK(!w.limit("coupling_speed").accepted);

    REQUIRE(w.window.open_file(file));
    w.settle();
    CHECK(w.limit("coupling_speed").accepted);
    w.document().set_quantity(w.path("/coupling/top_speed"), QStringLiteral("8000 rpm")); // known again
    w.settle();
    CHECK(w.limit("coupling_speed").state == LimitState::fits);
    CHECK(!w.limit("coupling_speed").accepted);
}

TEST_CASE("a pair of changes that brings a limit back is made at one press, and taken back by one undo") {
    Window w;
    w.document().select_axis(3); // the edge wiper
    w.click_page(4);
    w.settle();
    REQUIRE(w.limit("coupling").state == LimitState::over);
    auto* ledger = w.window.findChild<Ledger*>();
    ledger->open_row(QStringLiteral("coupling"));
    w.settle();
    const auto offered = [&]() -> QPushButton* {
        for (QPushButton* b : ledger->findChildren<QPushButton*>())
            if (b->isVisible() && b->property("action").toString() == QStringLiteral("change")) return b;
        return nullptr;
    };
    QPushButton* set = offered();
    REQUIRE(set);
    INFO(set->text().toStdString());
    CHECK(set->text().contains(QStringLiteral("Torque limit")));
    CHECK(set->text().contains(QStringLiteral("Emergency stop in")));
    CHECK(set->width() >= set->sizeHint().width() - 1); // whole at this width
    const int before = w.document().undo_stack().index();
    QTest::mouseClick(set, Qt::LeftButton);
    w.settle();
    CHECK(w.document().undo_stack().index() == before + 1);
    for (const char* key : {"coupling", "stage_emergency", "drive_stop"}) {
        INFO(key);
        CHECK((w.limit(key).state == LimitState::fits || w.limit(key).state == LimitState::tight));
    }
    CHECK(!offered()); // nothing is over any more
    w.document().undo_stack().undo();
    w.settle();
    CHECK(w.limit("coupling").state == LimitState::over);
    CHECK(offered());
    // a limit that a torque limit cannot bring back offers nothing
    ledger->open_row(QStringLiteral("peak_torque"));
    w.settle();
    CHECK(!offered());
}
