// Page 1: mechanisms by looking and by typing, bodies, stages, materials, quick sums.
#include "app/forms/list_editor.h"
#include "app/forms/mechanism_gallery.h"
#include "app/pages/what_moves.h"
#include "app/quick_sums.h"
#include "app/schematic/schematic.h"
#include "tests/app/window.h"
#include "tests/mechanism_texts.h"

#include <QComboBox>
#include <QCryptographicHash>
#include <QListWidget>
#include <QToolButton>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// Clicks the first visible button with this text.
bool press(QWidget& in, const char* text) {
    for (QAbstractButton* b : in.findChildren<QAbstractButton*>())
        if (b->isVisible() && b->text() == QString::fromUtf8(text)) {
            QTest::mouseClick(b, Qt::LeftButton);
            QApplication::processEvents();
            return true;
        }
    return false;
}

int colours(const QImage& image) {
    std::set<QRgb> seen;
    for (int y = 0; y < image.height(); y += 3)
        for (int x = 0; x < image.width(); x += 3) seen.insert(image.pixel(x, y));
    return static_cast<int>(seen.size());
}

} // namespace

TEST_CASE("every mechanism is chosen in the form, draws itself, and its drawing leads to its fields") {
    Window w;
    w.click_page(1);
    const auto kinds = all_mechanisms();
    auto* schematic = w.window.findChild<Schematic*>();
    REQUIRE(schematic);
    std::set<QString> pictures;
    for (std::size_t k = 0; k < kinds.size(); ++k) {
        auto* choice = w.child<QComboBox>(w.path("/mechanism").toUtf8().constData());
        REQUIRE(choice->count() == static_cast<int>(kinds.size()));
        choice->setCurrentIndex(static_cast<int>(k));
        emit choice->activated(static_cast<int>(k));
        QApplication::processEvents();
        const Axis& a = w.document().axis();
        REQUIRE(a.mechanism.index() == k);
        const std::string key =
            std::visit([](const auto& held) { return std::decay_t<decltype(held)>::kind_key; }, a.mechanism);
        INFO(key);
        // what is not given yet is drawn, but no number is made up for it
        if (key == "slider_crank" || key == "scotch_yoke") {
            static_cast<void>(schematic->grab());
            CHECK(schematic->accessibleDescription().contains(QStringLiteral("stroke ?")));
        }
        for (const auto& [name, text] : mechanism_texts(key))
            if (const QString at = w.path(("/mechanism/" + name).c_str()); text == "screw")
                w.document().set_choice(at, 1);
            else
                CHECK(!w.document().set_quantity(at, QString::fromStdString(text)));
        QApplication::processEvents();
        const QImage drawn = schematic->grab().toImage();
        CHECK(colours(drawn) > 8);
        if (key == "slider_crank" || key == "scotch_yoke")
            CHECK(!schematic->accessibleDescription().contains(QLatin1Char('?')));
        pictures.insert(QString::fromLatin1(QCryptographicHash::hash(
            QByteArray::fromRawData(reinterpret_cast<const char*>(drawn.constBits()), drawn.sizeInBytes()),
            QCryptographicHash::Md5)
                                                .toHex()));
        // what the drawing names can be clicked: somewhere in it the hand shows, and a field takes the focus
        bool led = key == "linear_motor";
        std::string met; // where clicks led
        for (int y = 4; y < schematic->height() && !led; y += 6)
            for (int x = 4; x < schematic->width() && !led; x += 10) {
                QMouseEvent over(QEvent::MouseMove, QPointF(x, y), schematic->mapToGlobal(QPointF(x, y)), Qt::NoButton,
                    Qt::NoButton, Qt::NoModifier);
                QApplication::sendEvent(schematic, &over);
                if (schematic->cursor().shape() != Qt::PointingHandCursor) continue;
                QTest::mouseClick(schematic, Qt::LeftButton, {}, QPoint(x, y));
                const QString focus =
                    QApplication::focusWidget() ? QApplication::focusWidget()->objectName() : QString();
                led = focus.startsWith(w.path("/mechanism")) || focus.startsWith(w.path("/load"));
                met += " " + focus.toStdString();
                w.click_page(1);
            }
        INFO("clicks led to" << met);
        CHECK(led);
    }
    CHECK(pictures.size() == kinds.size());
}

TEST_CASE("a linear cycle on a rotary axis keeps its words, says what is wrong, and fits again after undo") {
    Window w;
    w.click_page(1);
    int table = 0;
    for (std::size_t k = 0; k < all_mechanisms().size(); ++k)
        if (std::holds_alternative<RotaryTable>(all_mechanisms()[k])) table = static_cast<int>(k);
    w.document().set_choice(w.path("/mechanism"), table);
    CHECK(!w.document().assessment().demand);
    bool told = false;
    for (const Problem& p : w.document().assessment().problems)
        told = told || (p.path.ends_with("/segments/0/what/distance") && p.message.find("400 mm") != std::string::npos);
    CHECK(told);
    w.click_page(2);
    CHECK(w.edit("/cycle/segments/0/what/distance")->text() == QStringLiteral("400 mm"));
    w.type("/cycle/segments/0/what/distance", "90 deg");
    CHECK(std::get<MoveInTime>(w.document().axis().cycle.segments[0].what).distance.si == Approx(M_PI / 2));
    while (w.document().undo_stack().canUndo()) w.document().undo_stack().undo();
    CHECK(w.document().assessment().demand);
}

TEST_CASE("what is wrong only beside another field is said below the field, and goes with it") {
    Window w;
    w.click_page(1);
    const auto kinds = all_mechanisms();
    const auto crank = std::find_if(
        kinds.begin(), kinds.end(), [](const Mechanism& m) { return std::holds_alternative<SliderCrank>(m); });
    REQUIRE(crank != kinds.end());
    w.document().set_choice(w.path("/mechanism"), static_cast<int>(crank - kinds.begin()));
    const auto said = [&] {
        QApplication::processEvents();
        for (QLabel* l : w.edit("/mechanism/crank")->parentWidget()->findChildren<QLabel*>(QStringLiteral("problem")))
            if (l->isVisible()) return l->text();
        return QString();
    };
    w.type("/mechanism/crank", "60 mm");
    CHECK(said().isEmpty());
    w.type("/mechanism/rod", "50 mm");
    CHECK(said().contains(QStringLiteral("smaller than the rod, 50 mm")));
    CHECK(!w.edit("/mechanism/crank")->wrong());
    // a text that cannot be read matters more
    w.type("/mechanism/crank", "60 kg");
    CHECK(!said().contains(QStringLiteral("rod")));
    w.type("/mechanism/crank", "60 mm");
    CHECK(said().contains(QStringLiteral("rod")));
    w.type("/mechanism/rod", "200 mm");
    CHECK(said().isEmpty());
}

TEST_CASE("the gallery takes a mechanism by a click and by typing") {
    Window w;
    w.click_page(1);
    REQUIRE(press(w.window, "Choose a mechanism by its picture…"));
    auto* gallery = w.window.findChild<MechanismGallery*>();
    REQUIRE(gallery);
    REQUIRE(gallery->isVisible());
    REQUIRE(press(*gallery, "Hoist"));
    CHECK(std::holds_alternative<Hoist>(w.document().axis().mechanism));
    CHECK(!gallery->isVisible());
    press(w.window, "Choose a mechanism by its picture…");
    auto* search = gallery->findChild<QLineEdit*>(QStringLiteral("mechanism-search"));
    QTest::keyClicks(search, QStringLiteral("crank"));
    QTest::keyClick(search, Qt::Key_Return);
    CHECK(std::holds_alternative<SliderCrank>(w.document().axis().mechanism));
}

TEST_CASE("bodies and stages are added, filled in, moved and taken out, and count") {
    Window w;
    w.click_page(1);
    const double before = w.document().assessment().inertia->load;
    REQUIRE(press(w.window, "+ stage"));
    w.type("/stages/0/ratio", "2");
    CHECK(w.document().assessment().demand->load.ratio == 2);
    CHECK(w.document().assessment().inertia->load < before);
    REQUIRE(press(w.window, "+ body"));
    w.document().set_choice(w.path("/bodies/0/shape"), 8); // a point mass
    w.type("/bodies/0/mass", "5 kg");
    CHECK(w.document().assessment().inertia->shares.size() >= 6);
    const double with_body = w.document().assessment().demand->static_torque;
    for (ListEditor* l : w.window.findChildren<ListEditor*>())
        if (l->isVisible() && l->current() >= 0) press(*l, "Delete");
    CHECK(w.document().axis().bodies.empty());
    CHECK(w.document().axis().stages.empty());
    CHECK(w.document().assessment().demand->static_torque != Approx(with_body));
    CHECK(w.document().assessment().inertia->load == Approx(before));
}

TEST_CASE("a material is added, named by a body, and its density counts") {
    Window w;
    w.window.edit_materials();
    auto* dialog = w.child<QDialog>("materials");
    REQUIRE(press(*dialog, "+ material"));
    const auto& materials = w.document().machine().materials;
    std::size_t fresh = 0;
    for (std::size_t i = 0; i < materials.size(); ++i)
        if (materials[i].name.empty()) fresh = i;
    const QString base = QStringLiteral("/materials/%1/").arg(fresh);
    w.document().set_text(base + QStringLiteral("name"), QStringLiteral("Tungsten"));
    CHECK(!w.document().set_quantity(base + QStringLiteral("density"), QStringLiteral("19300 kg/m³")));
    w.document().edit(QStringLiteral("body"), [](Machine& m) {
        Body b;
        SolidCylinder c;
        c.diameter = Quantity<Kind::length>("100 mm");
        c.length = Quantity<Kind::length>("100 mm");
        b.shape = c;
        b.material = "Tungsten";
        m.axes[0].bodies = {b};
    });
    CHECK(w.document().assessment().demand);
    w.document().set_text(w.path("/bodies/0/material"), QStringLiteral("Unobtainium"));
    CHECK(!w.document().assessment().demand);
    dialog->close();
}

TEST_CASE("quick sums: 2000 mm/min with a 20 mm lead needs 100 rpm, and back; moves per hour") {
    Window w;
    QTest::keyClick(&w.window, Qt::Key_R, Qt::ControlModifier);
    auto* sums = w.child<QDialog>("quick-sums");
    REQUIRE(sums->isVisible());
    const auto field = [&](const char* name) { return sums->findChild<QLineEdit*>(QLatin1String(name)); };
    const auto type = [&](const char* name, const char* text) {
        field(name)->selectAll();
        QTest::keyClicks(field(name), QLatin1String(text));
    };
    CHECK(field("sum-travel")->text() == QStringLiteral("10 mm")); // the lead of the axis
    type("sum-travel", "20 mm");
    type("sum-feed", "2000 mm/min");
    CHECK(field("sum-speed")->text() == QStringLiteral("100 rpm"));
    // a pinion of circumference 188.5 mm and a ratio of 5 on a 3000 rpm motor
    type("sum-travel", "188.5 mm");
    type("sum-ratio", "5");
    type("sum-speed", "3000 rpm");
    CHECK(field("sum-feed")->text() == QStringLiteral("113100 mm/min"));
    type("sum-time", "1.2 s");
    CHECK(field("sum-moves")->text() == QStringLiteral("3000"));
    type("sum-moves", "1800");
    CHECK(field("sum-time")->text() == QStringLiteral("2 s"));
    type("sum-feed", "fast");
    CHECK(field("sum-speed")->text().isEmpty());
    sums->close();
}
