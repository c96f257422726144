// What a window shows after a change is what a fresh window shows of the same project.
#include "app/pages/registry.h"
#include "app/parts/part_cards.h"
#include "app/plots/plot.h"
#include "tests/app/window.h"
#include "tests/demo.h"

#include <QAbstractItemView>
#include <QHeaderView>
#include <QTableView>
#include <functional>
#include <map>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

struct View {
    const char* page;
    QString tab, name;
};

// All there are for the axis that is selected.
std::vector<View> views(Window& w) {
    std::vector<View> out;
    for (const PageEntry& page : page_registry()) {
        if (page.tabs.empty()) out.push_back({page.key, {}, QString::fromUtf8(page.question)});
        for (const TabEntry& tab : page.tabs)
            if (!tab.card || has_card(w.document().axis(), *tab.card))
                out.push_back({page.key, QString::fromUtf8(tab.key), QString::fromUtf8(tab.name)});
    }
    return out;
}

void show(Window& w, const View& v) {
    REQUIRE(w.window.open_page(v.page, v.tab));
    w.idle();
}

// Everything that says something, by what it is.
std::map<QString, QStringList> contents(Window& w) {
    std::map<QString, QStringList> out;
    const auto name_of = [](const QWidget& each) {
        return QString::fromLatin1(each.metaObject()->className()) + QLatin1Char(' ') + each.objectName() +
               QLatin1Char(' ') + each.accessibleName();
    };
    for (const QAbstractItemView* t : w.window.findChildren<QAbstractItemView*>()) {
        if (!t->isVisible() || !t->model()) continue;
        QStringList& rows = out[name_of(*t)];
        for (int r = 0; r < t->model()->rowCount(); ++r) {
            QStringList cells;
            for (int c = 0; c < t->model()->columnCount(); ++c) cells << t->model()->index(r, c).data().toString();
            rows << cells.join(QStringLiteral(" | "));
        }
        rows.sort();
    }
    for (const Plot* p : w.window.findChildren<Plot*>()) {
        if (!p->isVisible()) continue;
        const Table table = p->as_table();
        QStringList& rows = out[name_of(*p)];
        for (const auto& row : table.rows) {
            QStringList cells;
            for (const std::string& cell : row) cells << QString::fromStdString(cell);
            rows << cells.join(QStringLiteral(" | "));
        }
    }
    for (const PartCard* c : w.window.findChildren<PartCard*>())
        if (c->isVisible()) out[name_of(*c)] << c->part() + QStringLiteral(": ") + c->says();
    for (const QLabel* l : w.window.findChildren<QLabel*>())
        if (l->isVisible() && !l->text().isEmpty() && !qobject_cast<const HelpStrip*>(l) &&
            l->text() != QStringLiteral("not saved") && l->text() != QStringLiteral("new"))
            out[QStringLiteral("labels")] << l->text();
    out[QStringLiteral("labels")].sort();
    return out;
}

int compare(const std::map<QString, QStringList>& now, const std::map<QString, QStringList>& fresh) {
    int wrong = 0;
    for (const auto& [name, rows] : fresh) {
        INFO(name.toStdString());
        const auto it = now.find(name);
        CHECK(it != now.end());
        if (it == now.end() || it->second == rows) continue;
        QStringList only_now = it->second, only_fresh = rows;
        for (const QString& r : rows) only_now.removeOne(r);
        for (const QString& r : it->second) only_fresh.removeOne(r);
        INFO("shown: " << only_now.mid(0, 6).join(QLatin1Char('\n')).toStdString());
        INFO("fresh: " << only_fresh.mid(0, 6).join(QLatin1Char('\n')).toStdString());
        CHECK(false);
        ++wrong;
    }
    return wrong;
}

} // namespace

TEST_CASE("after any change every page, card, table and plot is of the present state") {
    struct Change {
        const char* name;
        std::function<void(Window&)> make;
    };
    const auto text = [](const char* field, const char* value) {
        return [field, value](Window& w) {
            const QString path = QString::fromLatin1(field).startsWith(QLatin1String("//"))
                                     ? QString::fromLatin1(field).mid(1)
                                     : w.path(field);
            REQUIRE(!w.document().set_quantity(path, QString::fromUtf8(value)));
        };
    };
    const std::vector<Change> changes{
        {"payload", text("/load/payload", "90 kg")},
        {"bus voltage", text("/drive/bus_voltage", "120 V")},
        {"altitude", text("//site/altitude", "3500 m")},
        {"accuracy asked", text("/accuracy/asked", "0.002 mm")},
        {"another axis", [](Window& w) { w.document().select_axis(2); }},
        {"no motor",
            [](Window& w) { w.document().edit(QStringLiteral("none"), [](Machine& m) { m.axes[0].motor = {}; }); }},
        {"new project", [](Window& w) { w.document().start_new(); }},
    };
    int seen = 0;
    std::size_t at = 0;
    for (const Change& change : changes) {
        Window w;
        const std::vector<View> before = views(w);
        for (const View& v : before) show(w, v); // each has shown the state before
        const View& front = before[at++ * 3 % before.size()];
        show(w, front);
        change.make(w);
        QApplication::processEvents();
        Window fresh(false);
        REQUIRE(fresh.window.open_project({ProjectRead{w.document().machine()}, {}}));
        fresh.document().select_axis(w.document().axis_index());
        for (const View& v : views(fresh)) {
            show(fresh, v);
            show(w, v);
            INFO(change.name << ", made at " << front.name.toStdString() << ", then page " << v.page << ' '
                             << v.name.toStdString());
            auto now = contents(w), right = contents(fresh);
            if (now != right) { // a layout that settles may draw again
                fresh.settle();
                w.settle();
                now = contents(w);
                right = contents(fresh);
            }
            compare(now, right);
            ++seen;
        }
    }
    CHECK(seen > 100);
}
