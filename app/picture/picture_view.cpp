#include "app/picture/picture_view.h"

#include "app/bricks/choice.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QButtonGroup>
#include <QGridLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QRadioButton>
#include <QScrollArea>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

namespace fulmox::app {

namespace {

constexpr int column_width = 272;

QPushButton* link(const QString& text, const QString& tip) {
    auto* b = new QPushButton(text);
    b->setObjectName(QStringLiteral("link"));
    b->setToolTip(tip);
    return b;
}

// A hundredth of a pixel is finer than any hand.
double hundredth(double v) { return std::round(v * 100) / 100; }

Samples with(const Samples& points, const std::function<void(std::vector<double>&)>& change) {
    auto numbers = points.numbers ? std::make_shared<std::vector<double>>(*points.numbers)
                                  : std::make_shared<std::vector<double>>();
    change(*numbers);
    return {std::move(numbers), 2};
}

const char* const mark_keys[] = {"speed_1", "speed_2", "torque_1", "torque_2"};

} // namespace

PictureView::PictureView(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    setAcceptDrops(true);
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 4, 0, 0);
    line->setSpacing(10);

    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setFixedWidth(column_width);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    column_ = new QWidget;
    column_->setObjectName(QStringLiteral("clear"));
    auto* column = new QVBoxLayout(column_);
    column->setContentsMargins(0, 0, 8, 0);
    column->setSpacing(4);
    auto* files = new QHBoxLayout;
    files->setSpacing(10);
    auto* open =
        link(tr("Load…"), tr("A picture of the datasheet's curves: PNG, JPEG, BMP or GIF. It may be dropped here too"));
    connect(open, &QPushButton::clicked, this, &PictureView::open_file);
    auto* from_clipboard = link(tr("Paste"), tr("A picture from the clipboard (Ctrl+V)"));
    connect(from_clipboard, &QPushButton::clicked, this, &PictureView::paste);
    remove_ = link(
        tr("Remove"), tr("Takes the picture and what was clicked on it out of the project; undo brings them back"));
    remove_->setAccessibleName(tr("Remove this picture"));
    connect(remove_, &QPushButton::clicked, this, &PictureView::remove_picture);
    for (QWidget* w : {open, from_clipboard, remove_}) files->addWidget(w);
    files->addStretch(1);
    column->addLayout(files);
    pictures_ = new Choice;
    pictures_->setAccessibleName(tr("Picture"));
    connect(pictures_, &QComboBox::activated, this, [this](int i) {
        shown_ = i;
        target_ = -1;
        built_for_.clear();
        refresh();
    });
    column->addWidget(pictures_);
    form_ = new Form(document_, {}, 88);
    connect(form_, &Form::focused, this, &PictureView::focused);
    column->addWidget(form_);
    tools_ = new QVBoxLayout;
    tools_->setSpacing(4);
    column->addLayout(tools_);
    // a curve says nothing without the bus, and of a stepper the current, at which it was drawn
    drawn_at_ = new Form(document_, {}, 118);
    connect(drawn_at_, &Form::focused, this, &PictureView::focused);
    column->addWidget(drawn_at_);
    take_ = new QPushButton;
    take_->setObjectName(QStringLiteral("primary"));
    take_->setProperty("action", QStringLiteral("take-curve"));
    connect(take_, &QPushButton::clicked, this, &PictureView::take);
    column->addWidget(take_);
    state_ = new QLabel;
    state_->setObjectName(QStringLiteral("second"));
    state_->setFont(type_face(12));
    state_->setTextFormat(Qt::PlainText);
    state_->setWordWrap(true);
    column->addWidget(state_);
    column->addStretch(1);
    scroll->setWidget(column_);
    line->addWidget(scroll);

    auto* right = new QVBoxLayout;
    right->setSpacing(4);
    canvas_ = new PictureCanvas;
    canvas_->setObjectName(QStringLiteral("picture-canvas"));
    right->addWidget(canvas_, 1);
    auto* below = new QHBoxLayout;
    below->setSpacing(8);
    reads_ = new QLabel;
    reads_->setObjectName(QStringLiteral("second"));
    reads_->setFont(type_face(12));
    reads_->setTextFormat(Qt::PlainText);
    progress_ = new QProgressBar;
    progress_->setAccessibleName(tr("The picture is being read"));
    progress_->setMaximumWidth(160);
    progress_->setTextVisible(false);
    cancel_ = link(tr("Cancel"), tr("Leaves the picture unread"));
    connect(cancel_, &QPushButton::clicked, this, [this] {
        reading_.drop();
        showing_.drop();
        complaint_ = tr("the picture was not read");
        refresh();
        canvas_->say(tr("The picture was not read. It is read again when this tab is reopened."));
    });
    below->addWidget(reads_, 1);
    below->addWidget(progress_);
    below->addWidget(cancel_);
    const auto zoom = [&](const QString& text, const QString& name, auto act) {
        auto* b = new QToolButton;
        b->setText(text);
        b->setToolTip(name);
        b->setAccessibleName(name);
        connect(b, &QToolButton::clicked, this, act);
        below->addWidget(b);
    };
    zoom(QStringLiteral("−"), tr("Smaller (−)"), [this] { canvas_->zoom(1 / 1.5); });
    zoom(QStringLiteral("+"), tr("Larger (+, or the wheel once the picture was clicked)"),
        [this] { canvas_->zoom(1.5); });
    zoom(tr("All"), tr("The whole picture (0)"), [this] { canvas_->fit(); });
    right->addLayout(below);
    line->addLayout(right, 1);

    aims_ = new QButtonGroup(this);
    connect(aims_, &QButtonGroup::idClicked, this, &PictureView::aim);
    connect(canvas_, &PictureCanvas::placed, this, &PictureView::put);
    connect(canvas_, &PictureCanvas::moved, this, &PictureView::move);
    connect(canvas_, &PictureCanvas::removed, this, &PictureView::erase);
    connect(canvas_, &PictureCanvas::selected, this, [this] { say_state(); });
    connect(canvas_, &PictureCanvas::cursor_moved, this, &PictureView::say_cursor);
    pulse_ = new QTimer(this);
    pulse_->setInterval(60);
    connect(pulse_, &QTimer::timeout, this, [this] {
        progress_->setValue(static_cast<int>(100 * std::min(reading_.done(), showing_.done())));
        if (loading()) return;
        pulse_->stop();
        progress_->hide();
        cancel_->hide();
    });
    progress_->hide();
    cancel_->hide();
    connect(&document_, &Document::opened, this, [this] {
        complaint_.clear();
        shown_ = 0;
        target_ = -1;
    });
}

void PictureView::showEvent(QShowEvent* event) {
    if (!canvas_->has_picture() && !loading()) image_of_.reset(); // what was given up is read again
    set_stale();
    LiveWidget::showEvent(event);
}

void PictureView::say_cursor() {
    const CurvePicture* p = picture();
    if (!p || !canvas_->has_picture() || !canvas_->shows_cursor()) return reads_->clear();
    const QPointF at = canvas_->cursor();
    QString text = tr("column %1, row %2").arg(at.x(), 0, 'f', 1).arg(at.y(), 0, 'f', 1);
    if (const PictureReading r(*p); r.wrong().empty()) {
        const auto v = r.at({at.x(), at.y()});
        const UnitSystem system = document_.machine().unit_system;
        if (std::isfinite(v.speed) && std::isfinite(v.torque))
            text += tr(": %1, %2")
                        .arg(qs(format_quantity(v.speed, Kind::angular_speed, system)),
                            qs(format_quantity(v.torque, Kind::torque, system)));
    }
    reads_->setText(text);
}

const CurvePicture* PictureView::picture() const {
    if (!document_.has_axis()) return nullptr;
    const auto& all = document_.axis().motor.pictures;
    return shown_ >= 0 && shown_ < static_cast<int>(all.size()) ? &all[static_cast<std::size_t>(shown_)] : nullptr;
}

QString PictureView::place() const { return QStringLiteral("/motor/pictures/%1").arg(shown_); }

QString PictureView::mark_path(int mark) const {
    const CurvePicture* p = picture();
    const char* value = mark >= 2 ? "torque" : p && p->speed_as == SpeedRead::pulses ? "rate" : "speed";
    return QStringLiteral("%1%2/%3/%4")
        .arg(document_.axis_path(), place(), QLatin1String(mark_keys[mark]), QLatin1String(value));
}

QString PictureView::said() const { return state_->text(); }

void PictureView::edit(const QString& name, const std::function<void(CurvePicture&)>& change, const QString& merge) {
    if (!picture()) return;
    document_.edit(
        name,
        [&](Machine& m) {
            auto& all = m.axes[static_cast<std::size_t>(document_.axis_index())].motor.pictures;
            change(all[static_cast<std::size_t>(shown_)]);
        },
        merge);
}

void PictureView::refresh() {
    const auto count = document_.has_axis() ? static_cast<int>(document_.axis().motor.pictures.size()) : 0;
    shown_ = std::clamp(shown_, 0, std::max(0, count - 1));
    const CurvePicture* p = picture();
    QString now = QStringLiteral("%1 %2 %3").arg(document_.axis_path()).arg(count).arg(shown_);
    if (p) {
        now += QStringLiteral(" %1 %2").arg(static_cast<int>(p->speed_as)).arg(document_.axis().motor.stepper());
        for (const PictureCurve& c : p->curves) now += QStringLiteral(" %1").arg(static_cast<int>(c.of));
    }
    if (now != built_for_) {
        built_for_ = now;
        rebuild();
    }
    form_->refresh();
    drawn_at_->refresh();
    if (p) {
        Machine copy = document_.machine();
        for (int i = 0; i < first_curve; ++i)
            if (const auto f = find_field(copy, mark_path(i).toStdString()))
                values_[static_cast<std::size_t>(i)]->refresh(*f);
    }
    show_image();
    refresh_canvas();
    say_cursor();
    say_state();
}

// What stands in the column depends on what the picture tells and how many curves there are.
void PictureView::rebuild() {
    const CurvePicture* p = picture();
    pictures_->clear();
    if (document_.has_axis())
        for (const CurvePicture& each : document_.axis().motor.pictures)
            pictures_->addItem(each.name.empty() ? tr("a picture without a name") : qs(each.name));
    pictures_->setCurrentIndex(shown_);
    pictures_->setVisible(pictures_->count() > 1);
    remove_->setVisible(p != nullptr);
    form_->setVisible(p != nullptr);
    QStringList places;
    for (const char* key : {"lie", "speed_as", "pulse_angle", "speed_scale", "torque_scale"})
        if (p) places << place() + QLatin1Char('/') + QLatin1String(key);
    form_->set_places(places);
    drawn_at_->setVisible(p != nullptr);
    drawn_at_->set_places(
        p ? QStringList{QStringLiteral("/motor/curve_voltage"), QStringLiteral("/motor/electric/curve_current"),
                QStringLiteral("/motor/electric/curve_current_in")}
          : QStringList());
    for (QAbstractButton* b : aims_->buttons()) aims_->removeButton(b);
    values_.clear();
    while (QLayoutItem* item = tools_->takeAt(0)) {
        if (QWidget* w = item->widget()) {
            w->hide();
            w->deleteLater();
        }
        delete item;
    }
    take_->setVisible(p != nullptr);
    if (!p) return;
    const auto heading = [&](const QString& text) {
        auto* h = new QLabel(text);
        h->setFont(type_face(12, Weight::strong));
        h->setContentsMargins(0, 4, 0, 0);
        tools_->addWidget(h);
    };
    const auto aim_button = [&](const QString& text, int id, const QString& tip) {
        auto* b = new QRadioButton(text);
        b->setToolTip(tip);
        aims_->addButton(b, id);
        return b;
    };
    heading(tr("A click sets"));
    auto* marks = new QWidget;
    auto* grid = new QGridLayout(marks);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(3);
    for (int i = 0; i < first_curve; ++i) {
        const QString name = i < 2 ? tr("speed %1").arg(i + 1) : tr("torque %1").arg(i - 1);
        auto* b = aim_button(name, i,
            i < 2 ? tr("A place where the axis of speed says a value; far apart is better")
                  : tr("A place where the axis of torque says a value; far apart is better"));
        grid->addWidget(b, i, 0);
        auto* e = new QuantityEdit(document_, mark_path(i));
        e->setObjectName(e->path());
        e->setAccessibleName(tr("value at the mark %1").arg(name));
        e->setPlaceholderText(i >= 2 ? tr("N·m") : p->speed_as == SpeedRead::pulses ? tr("kHz") : tr("rpm"));
        connect(e, &QuantityEdit::focused, this, &PictureView::focused);
        connect(e, &QuantityEdit::problem_changed, e, [e] { e->setToolTip(plain_tip(e->problem())); });
        connect(e, &QuantityEdit::entered, this, [this] {
            canvas_->setFocus(); // where the next mark is set
        });
        grid->addWidget(e, i, 1);
        values_.push_back(e);
    }
    grid->setColumnStretch(1, 1);
    tools_->addWidget(marks);
    auto* curves = new QWidget;
    auto* rows = new QGridLayout(curves);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setVerticalSpacing(3);
    for (std::size_t c = 0; c < p->curves.size(); ++c) {
        rows->addWidget(aim_button(QString(), first_curve + static_cast<int>(c), tr("Points of this curve")),
            static_cast<int>(c), 0);
        auto* of = new Choice;
        of->setAccessibleName(tr("Curve %1 is").arg(c + 1));
        for (const CurveOf each : {CurveOf::peak, CurveOf::continuous, CurveOf::pull_in})
            of->addItem(QLatin1String(curve_name(document_.axis().motor, each)));
        of->setCurrentIndex(static_cast<int>(p->curves[c].of));
        connect(of, &QComboBox::activated, this, [this, c](int chosen) {
            document_.set_choice(
                QStringLiteral("%1%2/curves/%3/of").arg(document_.axis_path(), place()).arg(c), chosen);
        });
        rows->addWidget(of, static_cast<int>(c), 1);
    }
    rows->setColumnStretch(1, 1);
    tools_->addWidget(curves);
    auto* of_curves = new QWidget;
    auto* curve_line = new QHBoxLayout(of_curves);
    curve_line->setContentsMargins(0, 0, 0, 0);
    curve_line->setSpacing(10);
    auto* add = link(tr("+ curve"), tr("Another curve on this picture"));
    connect(add, &QPushButton::clicked, this, &PictureView::add_curve);
    remove_curve_ = link(tr("Remove curve"), tr("Takes away the points of the chosen curve"));
    connect(remove_curve_, &QPushButton::clicked, this, &PictureView::remove_curve);
    for (QWidget* w : {add, remove_curve_}) curve_line->addWidget(w);
    curve_line->addStretch(1);
    tools_->addWidget(of_curves);
    if (target_ >= first_curve + static_cast<int>(p->curves.size())) target_ = -1;
    if (target_ < 0) next_target();
    aim(target_);
}

void PictureView::refresh_canvas() {
    const CurvePicture* p = picture();
    std::vector<PictureCanvas::Mark> marks;
    std::vector<QPolygonF> lines;
    if (p) {
        CurvePicture copy = *p;
        for (int i = 0; i < CurvePicture::marks; ++i) {
            const CurvePicture::MarkRef mark = copy.mark(i);
            const QString letter = i < 2 ? tr("speed") : tr("torque");
            if (mark.placed())
                marks.push_back({QPointF(mark.column->si, mark.row->si),
                    mark.value->given() ? letter + QLatin1Char(' ') + qs(mark.value->text) : letter, -1, i, i < 2});
        }
        for (std::size_t c = 0; c < p->curves.size(); ++c)
            for (std::size_t i = 0; i < p->curves[c].points.rows(); ++i)
                marks.push_back({QPointF(p->curves[c].points.at(i, 0), p->curves[c].points.at(i, 1)), QString(),
                    static_cast<int>(c), static_cast<int>(i), false});
        // the curves the motor has now, so that a reading can be seen to be right
        if (const PictureReading r(*p); r.wrong().empty()) {
            const Motor& motor = document_.axis().motor;
            for (const auto* curve : {&motor.peak, &motor.continuous, &motor.pull_in}) {
                QPolygonF polygon;
                for (std::size_t i = 0; i < curve->size(); ++i) {
                    const CurvePoint& b = (*curve)[i];
                    const CurvePoint& a = i > 0 ? (*curve)[i - 1] : b;
                    if (!a.speed.given() || !b.speed.given() || !a.torque.given() || !b.torque.given()) continue;
                    constexpr int parts = 16; // a straight line of the motor bends on a logarithmic scale
                    for (int k = i > 0 ? 1 : parts; k <= parts; ++k) {
                        const double s = static_cast<double>(k) / parts;
                        const auto at = r.place_of({a.speed.si + s * (b.speed.si - a.speed.si),
                            a.torque.si + s * (b.torque.si - a.torque.si)});
                        if (at && std::abs(at->column) < 1e6 && std::abs(at->row) < 1e6)
                            polygon << QPointF(at->column, at->row);
                    }
                }
                if (polygon.size() > 1) lines.push_back(polygon);
            }
        }
    }
    canvas_->set_marks(std::move(marks), std::max(0, target_ - first_curve));
    canvas_->set_lines(std::move(lines));
}

void PictureView::say_state() {
    const CurvePicture* p = picture();
    QStringList words;
    if (!complaint_.isEmpty()) words << complaint_;
    bool ready = false;
    if (p) {
        const Motor& motor = document_.axis().motor;
        for (std::size_t c = 0; c < p->curves.size(); ++c)
            if (auto* b = aims_->button(first_curve + static_cast<int>(c))) {
                const auto n = p->curves[c].points.rows();
                b->setText(n == 1 ? tr("1 point") : tr("%1 points").arg(n));
                b->setAccessibleName(tr("%1, %2").arg(QLatin1String(curve_name(motor, p->curves[c].of)), b->text()));
            }
        const PictureReading r(*p);
        for (const std::string& w : r.wrong()) words << qs(w);
        for (const std::string& w : r.odd()) words << qs(w);
        const int c = std::clamp(target_ - first_curve, 0, static_cast<int>(p->curves.size()) - 1);
        if (p->curves.empty()) {
            take_->setText(tr("Use as a curve of the motor"));
        } else {
            const PictureCurve& curve = p->curves[static_cast<std::size_t>(c)];
            const QString name = QLatin1String(curve_name(motor, curve.of));
            take_->setText(tr("Use as the %1").arg(name));
            const PickedCurve picked = pick_curve(*p, curve);
            if (r.wrong().empty()) {
                for (const std::string& w : picked.wrong) words << qs(w);
                const auto half = r.half_pixel({p->speed_1.column.si, p->torque_1.row.si});
                const UnitSystem system = document_.machine().unit_system;
                words << tr("half a pixel is %1 and %2 at the first marks")
                             .arg(qs(format_quantity(half.speed, Kind::angular_speed, system, 2)),
                                 qs(format_quantity(half.torque, Kind::torque, system, 2)));
            }
            const auto& now = curve_of(motor, curve.of);
            const bool same =
                picked.wrong.empty() && std::equal(picked.points.begin(), picked.points.end(), now.begin(), now.end(),
                                            [](const CurvePoint& a, const CurvePoint& b) {
                                                return a.speed.si == b.speed.si && a.torque.si == b.torque.si;
                                            });
            ready = picked.wrong.empty() && !same;
            if (!now.empty() && !motor.curve_voltage.given())
                words << tr("type the bus voltage at which the sheet's curves were drawn");
            if (same)
                words << tr("the motor's %1 is this reading").arg(name);
            else if (picked.wrong.empty() && !now.empty())
                words << tr("the motor's %1 is another now: dashed on the picture").arg(name);
        }
    }
    take_->setEnabled(ready && !document_.read_only());
    state_->setText(words.join(QStringLiteral("\n")));
    state_->setVisible(!words.isEmpty());
}

void PictureView::remove_picture() {
    if (!picture()) return;
    const int at = shown_;
    document_.edit_list(
        tr("remove picture"), {document_.axis_path() + QStringLiteral("/motor/pictures"), at, -1}, [&](Machine& m) {
            auto& all = m.axes[static_cast<std::size_t>(document_.axis_index())].motor.pictures;
            all.erase(all.begin() + at);
        });
    target_ = -1;
    built_for_.clear();
    refresh();
}

void PictureView::add_curve() {
    const CurvePicture* p = picture();
    if (!p) return;
    if (p->curves.size() >= CurvePicture::most_curves) {
        complaint_ = tr("a picture has at most %1 curves").arg(CurvePicture::most_curves);
        return refresh();
    }
    const bool has_peak =
        std::any_of(p->curves.begin(), p->curves.end(), [](const PictureCurve& c) { return c.of == CurveOf::peak; });
    target_ = first_curve + static_cast<int>(p->curves.size());
    edit(tr("new curve"), [has_peak](CurvePicture& each) {
        each.curves.push_back({has_peak ? CurveOf::continuous : CurveOf::peak, {nullptr, 2}, {}});
    });
    aim(target_);
}

void PictureView::remove_curve() {
    const int c = target_ - first_curve;
    const CurvePicture* p = picture();
    if (!p || c < 0 || c >= static_cast<int>(p->curves.size())) return;
    target_ = -1;
    edit(tr("remove curve"), [c](CurvePicture& each) { each.curves.erase(each.curves.begin() + c); });
    refresh();
}

// The first mark that is not placed, else the first curve.
void PictureView::next_target() {
    const CurvePicture* p = picture();
    target_ = -1;
    if (!p) return;
    CurvePicture copy = *p;
    for (int i = 0; i < first_curve; ++i)
        if (!copy.mark(i).placed()) {
            target_ = i;
            return;
        }
    if (!p->curves.empty()) target_ = first_curve;
}

void PictureView::aim(int target) {
    target_ = target;
    if (auto* b = aims_->button(target)) b->setChecked(true);
    if (target < 0 || document_.read_only())
        canvas_->set_aim(std::nullopt);
    else if (target < first_curve)
        canvas_->set_aim(PictureCanvas::Aim{-1, target});
    else
        canvas_->set_aim(PictureCanvas::Aim{target - first_curve, 0});
    if (picture()) remove_curve_->setEnabled(target >= first_curve);
    refresh_canvas();
    say_state();
}

void PictureView::set_mark(int mark, QPointF at, const QString& merge) {
    edit(
        mark < 2 ? tr("mark of speed") : tr("mark of torque"),
        [&](CurvePicture& p) {
            const auto text = [](double v) { return QString::number(hundredth(v), 'f', 2).toStdString(); };
            const CurvePicture::MarkRef to = p.mark(mark);
            *to.column = Quantity<Kind::number>(text(at.x()));
            *to.row = Quantity<Kind::number>(text(at.y()));
        },
        merge);
}

void PictureView::put(QPointF at, bool by_keys) {
    const CurvePicture* p = picture();
    if (!p || target_ < 0 || document_.read_only()) return;
    complaint_.clear();
    if (target_ < first_curve) {
        const int mark = target_;
        set_mark(mark, at, {});
        next_target();
        aim(target_);
        // its value is asked for at once; one that stands there already is kept
        if (auto* e = values_[static_cast<std::size_t>(mark)]; e->text().isEmpty()) e->setFocus(Qt::OtherFocusReason);
        return;
    }
    const int c = target_ - first_curve;
    if (p->curves[static_cast<std::size_t>(c)].points.rows() >= CurvePicture::most_points) {
        complaint_ = tr("a curve has at most %1 points").arg(CurvePicture::most_points);
        return refresh();
    }
    edit(tr("point of a curve"), [&](CurvePicture& each) {
        Samples& s = each.curves[static_cast<std::size_t>(c)].points;
        s = with(s, [at](std::vector<double>& n) {
            n.push_back(hundredth(at.x()));
            n.push_back(hundredth(at.y()));
        });
    });
    // the arrows then move what the mouse has set, or go on to where the next one is to be
    if (by_keys)
        canvas_->select(-1, -1);
    else
        canvas_->select(c, static_cast<int>(picture()->curves[static_cast<std::size_t>(c)].points.rows()) - 1);
}

void PictureView::move(int curve, int index, QPointF at, bool by_keys) {
    const QString merge = by_keys ? QStringLiteral("%1 %2 %3").arg(place()).arg(curve).arg(index) : QString();
    if (curve < 0) return set_mark(index, at, merge);
    edit(
        tr("point of a curve"),
        [&](CurvePicture& each) {
            Samples& s = each.curves[static_cast<std::size_t>(curve)].points;
            if (index >= static_cast<int>(s.rows())) return;
            s = with(s, [&](std::vector<double>& n) {
                n[2 * static_cast<std::size_t>(index)] = hundredth(at.x());
                n[2 * static_cast<std::size_t>(index) + 1] = hundredth(at.y());
            });
        },
        merge);
}

void PictureView::erase(int curve, int index) {
    if (curve < 0) {
        edit(tr("remove mark"), [&](CurvePicture& p) {
            const CurvePicture::MarkRef gone = p.mark(index);
            *gone.column = *gone.row = {};
        });
        return;
    }
    edit(tr("remove point"), [&](CurvePicture& each) {
        Samples& s = each.curves[static_cast<std::size_t>(curve)].points;
        if (index >= static_cast<int>(s.rows())) return;
        s = with(s, [&](std::vector<double>& n) { n.erase(n.begin() + 2 * index, n.begin() + 2 * index + 2); });
    });
}

void PictureView::take() {
    const CurvePicture* p = picture();
    if (!p || p->curves.empty()) return;
    const int c = std::clamp(target_ - first_curve, 0, static_cast<int>(p->curves.size()) - 1);
    const PictureCurve& curve = p->curves[static_cast<std::size_t>(c)];
    const PickedCurve picked = pick_curve(*p, curve);
    if (!picked.wrong.empty()) return say_state();
    const CurveOf of = curve.of;
    document_.edit(tr("curve off a picture"), [&](Machine& m) {
        Motor& motor = m.axes[static_cast<std::size_t>(document_.axis_index())].motor;
        curve_of(motor, of) = picked.points;
    });
}

bool PictureView::go_to(const QString& path) {
    const QString start = document_.axis_path() + QStringLiteral("/motor/pictures/");
    if (!path.startsWith(start)) return false;
    shown_ = path.mid(start.size()).section(QLatin1Char('/'), 0, 0).toInt();
    refresh();
    if (form_->go_to(path)) return true;
    for (QuantityEdit* e : values_)
        if (e->path() == path) {
            e->setFocus();
            return true;
        }
    canvas_->setFocus();
    return true;
}

Table PictureView::as_table() const {
    Table t{"Curves off a picture", {"curve", "speed", "torque", "column", "row"}, {}, {false, true, true, true, true}};
    const CurvePicture* p = picture();
    if (!p) return t;
    const PictureReading r(*p);
    const UnitSystem system = document_.machine().unit_system;
    for (const PictureCurve& c : p->curves)
        for (std::size_t i = 0; i < c.points.rows(); ++i) {
            std::string speed = "–", torque = "–";
            if (r.wrong().empty()) {
                const auto v = r.at({c.points.at(i, 0), c.points.at(i, 1)});
                speed = format_quantity(v.speed, Kind::angular_speed, system);
                torque = format_quantity(v.torque, Kind::torque, system);
            }
            t.rows.push_back({curve_name(document_.axis().motor, c.of), speed, torque,
                format_number(c.points.at(i, 0), 6), format_number(c.points.at(i, 1), 6)});
        }
    return t;
}

} // namespace fulmox::app
