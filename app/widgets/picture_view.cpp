#include "app/widgets/picture_view.h"

#include "app/theme.h"
#include "app/widgets/choice.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QBuffer>
#include <QButtonGroup>
#include <QClipboard>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QGuiApplication>
#include <QLabel>
#include <QMimeData>
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
void write_place(Quantity<Kind::number>& column, Quantity<Kind::number>& row, QPointF at) {
    const auto text = [](double v) { return QString::number(std::round(v * 100) / 100, 'f', 2).toStdString(); };
    column = Quantity<Kind::number>(text(at.x()));
    row = Quantity<Kind::number>(text(at.y()));
}

QPointF place_of(const Quantity<Kind::number>& column, const Quantity<Kind::number>& row) {
    return {column.si, row.si};
}

Samples with(const Samples& points, const std::function<void(std::vector<double>&)>& change) {
    auto numbers = points.numbers ? std::make_shared<std::vector<double>>(*points.numbers)
                                  : std::make_shared<std::vector<double>>();
    change(*numbers);
    return {std::move(numbers), 2};
}

QString told_empty() {
    return PictureView::tr("A picture of the motor's curves, from its datasheet: load it, drop it here, or copy it "
                           "from the document it is in and press Ctrl+V. Two marks on each axis make the scale, then "
                           "points are clicked along the curve.");
}

const char* const mark_keys[] = {"speed_1", "speed_2", "torque_1", "torque_2"};

} // namespace

PictureView::PictureView(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
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
        complaint_ = tr("given up");
        show_image();
        refresh();
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
    connect(&document_, &Document::changed, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&document_, &Document::opened, this, [this] {
        complaint_.clear();
        shown_ = 0;
        target_ = -1;
    });
}

void PictureView::showEvent(QShowEvent* event) {
    refresh();
    QWidget::showEvent(event);
}

void PictureView::say_cursor() {
    const CurvePicture* p = picture();
    if (!p || !canvas_->has_picture()) return reads_->clear();
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

// What stands in the column hangs on what the picture tells and how many curves there are.
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
        const auto add = [&](int i, const auto& mark, const QuantityBase& value, const QString& letter) {
            if (mark.placed())
                marks.push_back({place_of(mark.column, mark.row),
                    value.given() ? letter + QLatin1Char(' ') + qs(value.text) : letter, -1, i, i < 2});
        };
        const bool pulses = p->speed_as == SpeedRead::pulses;
        add(0, p->speed_1, pulses ? static_cast<const QuantityBase&>(p->speed_1.rate) : p->speed_1.speed, tr("speed"));
        add(1, p->speed_2, pulses ? static_cast<const QuantityBase&>(p->speed_2.rate) : p->speed_2.speed, tr("speed"));
        add(2, p->torque_1, p->torque_1.torque, tr("torque"));
        add(3, p->torque_2, p->torque_2.torque, tr("torque"));
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
            Motor copy = motor;
            const auto& now = curve_of(copy, curve.of);
            const bool same =
                picked.wrong.empty() && std::equal(picked.points.begin(), picked.points.end(), now.begin(), now.end(),
                                            [](const CurvePoint& a, const CurvePoint& b) {
                                                return a.speed.si == b.speed.si && a.torque.si == b.torque.si;
                                            });
            ready = picked.wrong.empty() && !same;
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

void PictureView::show_image() {
    const CurvePicture* p = picture();
    if (!p || p->image.empty()) {
        image_of_.reset();
        canvas_->show_picture({}, {});
        canvas_->say(reading_.running() ? tr("The picture is being read.")
                     : !document_.has_axis() || document_.axis().motor.linear()
                         ? tr("Curves are read for motors that turn.")
                         : told_empty());
        return;
    }
    if (image_of_ == p->image.base64) return;
    image_of_ = p->image.base64;
    canvas_->show_picture({}, {});
    canvas_->say(tr("The picture is being read."));
    const Attachment image = p->image;
    showing_.run(
        this,
        [image](const GoOn& go_on) {
            Taken t;
            t.decoded = decode_picture(bytes_of(image), go_on);
            return t;
        },
        [this, image](Taken t) {
            const CurvePicture* now = picture();
            if (!now || now->image.base64 != image.base64) return;
            if (t.decoded.full.isNull()) {
                canvas_->say(tr("The picture kept in the project cannot be shown: %1.")
                                 .arg(t.decoded.wrong.isEmpty() ? tr("there is not enough memory") : t.decoded.wrong));
                return;
            }
            canvas_->show_picture(t.decoded.full, t.decoded.reduced);
            aim(target_);
            refresh_canvas();
        });
    if (showing_.running()) {
        progress_->setValue(0);
        progress_->show();
        cancel_->show();
        pulse_->start();
    }
}

void PictureView::take_in(const QString& name, std::function<Result<QByteArray, QString>()> read) {
    if (!document_.has_axis() || document_.axis().motor.linear()) return;
    if (document_.axis().motor.pictures.size() >= 8) {
        complaint_ = tr("a motor keeps at most 8 pictures; remove one first");
        return refresh();
    }
    complaint_.clear();
    reading_.run(
        this,
        [read = std::move(read)](const GoOn& go_on) {
            Taken t;
            auto bytes = read();
            if (!bytes) {
                t.decoded.wrong = bytes.error();
                return t;
            }
            t.bytes = std::move(*bytes);
            t.decoded = decode_picture(t.bytes, go_on);
            return t;
        },
        [this, name, path = document_.axis_path()](Taken t) {
            if (path != document_.axis_path()) { // the axis was left meanwhile
                complaint_ = tr("%1 was not taken: another axis was chosen meanwhile").arg(name);
                return refresh();
            }
            come(std::move(t), name);
        });
    if (reading_.running()) {
        canvas_->say(tr("The picture is being read."));
        progress_->setValue(0);
        progress_->show();
        cancel_->show();
        pulse_->start();
    }
}

void PictureView::come(Taken t, const QString& name) {
    if (t.decoded.full.isNull()) {
        const QString why = t.decoded.wrong.isEmpty() ? tr("there is not enough memory") : t.decoded.wrong;
        complaint_ = why.startsWith(name) ? why : tr("%1 is not taken: %2").arg(name, why);
        return refresh();
    }
    CurvePicture made;
    made.name = name.toStdString();
    made.image = attach(t.bytes);
    made.curves.emplace_back();
    const auto at = document_.axis().motor.pictures.size();
    image_of_ = made.image.base64;
    canvas_->show_picture(t.decoded.full, t.decoded.reduced);
    shown_ = static_cast<int>(at);
    target_ = -1;
    document_.edit_list(tr("picture of the curves"),
        {document_.axis_path() + QStringLiteral("/motor/pictures"), -1, static_cast<int>(at)},
        [&](Machine& m) { m.axes[static_cast<std::size_t>(document_.axis_index())].motor.pictures.push_back(made); });
    built_for_.clear();
    refresh();
    canvas_->setFocus();
}

void PictureView::load(const QString& file) {
    take_in(QFileInfo(file).fileName(), [file] { return read_picture_file(file); });
}

void PictureView::open_file() {
    const QString file = QFileDialog::getOpenFileName(this, tr("Picture of the curves"), QString(),
        tr("Pictures (*.png *.jpg *.jpeg *.bmp *.gif);;All files (*)"), nullptr, QFileDialog::DontUseNativeDialog);
    if (!file.isEmpty()) load(file);
}

void PictureView::paste() {
    const QMimeData* held = QGuiApplication::clipboard()->mimeData();
    if (held && held->hasUrls() && held->urls().front().isLocalFile()) return load(held->urls().front().toLocalFile());
    if (held && held->hasImage()) {
        const QImage image = qvariant_cast<QImage>(held->imageData());
        return take_in(tr("pasted picture"), [image]() -> Result<QByteArray, QString> {
            QByteArray bytes;
            QBuffer out(&bytes);
            out.open(QIODevice::WriteOnly);
            if (!image.save(&out, "PNG"))
                return Result<QByteArray, QString>::failure(tr("it cannot be written as PNG"));
            if (bytes.size() > static_cast<qsizetype>(CurvePicture::largest))
                return Result<QByteArray, QString>::failure(tr("it has %1 MB as PNG; at most %2 MB are kept")
                                                                .arg(bytes.size() >> 20)
                                                                .arg(CurvePicture::largest >> 20));
            return bytes;
        });
    }
    complaint_ = tr("the clipboard holds no picture");
    refresh();
}

void PictureView::dragEnterEvent(QDragEnterEvent* e) {
    if (e->mimeData()->hasUrls() || e->mimeData()->hasImage()) e->acceptProposedAction();
}

void PictureView::dropEvent(QDropEvent* e) {
    if (e->mimeData()->hasUrls() && e->mimeData()->urls().front().isLocalFile())
        load(e->mimeData()->urls().front().toLocalFile());
    e->acceptProposedAction();
}

void PictureView::keyPressEvent(QKeyEvent* e) {
    if (e->matches(QKeySequence::Paste)) return paste();
    QWidget::keyPressEvent(e);
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
    if (p->curves.size() >= 12) {
        complaint_ = tr("a picture has at most 12 curves");
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
    const bool placed[] = {p->speed_1.placed(), p->speed_2.placed(), p->torque_1.placed(), p->torque_2.placed()};
    for (int i = 0; i < first_curve; ++i)
        if (!placed[i]) {
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
            if (mark == 0) write_place(p.speed_1.column, p.speed_1.row, at);
            if (mark == 1) write_place(p.speed_2.column, p.speed_2.row, at);
            if (mark == 2) write_place(p.torque_1.column, p.torque_1.row, at);
            if (mark == 3) write_place(p.torque_2.column, p.torque_2.row, at);
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
    if (p->curves[static_cast<std::size_t>(c)].points.rows() >= 200) {
        complaint_ = tr("a curve has at most 200 points");
        return refresh();
    }
    edit(tr("point of a curve"), [&](CurvePicture& each) {
        Samples& s = each.curves[static_cast<std::size_t>(c)].points;
        s = with(s, [at](std::vector<double>& n) {
            n.push_back(std::round(at.x() * 100) / 100);
            n.push_back(std::round(at.y() * 100) / 100);
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
                n[2 * static_cast<std::size_t>(index)] = std::round(at.x() * 100) / 100;
                n[2 * static_cast<std::size_t>(index) + 1] = std::round(at.y() * 100) / 100;
            });
        },
        merge);
}

void PictureView::erase(int curve, int index) {
    if (curve < 0) {
        edit(tr("remove mark"), [&](CurvePicture& p) {
            Quantity<Kind::number>* const places[][2] = {{&p.speed_1.column, &p.speed_1.row},
                {&p.speed_2.column, &p.speed_2.row}, {&p.torque_1.column, &p.torque_1.row},
                {&p.torque_2.column, &p.torque_2.row}};
            for (auto* q : places[index]) *q = {};
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
