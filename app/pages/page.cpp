#include "app/pages/page.h"

#include "app/words.h"

#include "app/theme.h"
#include "core/quantity/format.h"

#include <QCoreApplication>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QScrollBar>
#include <QTimer>
#include <QVBoxLayout>

namespace fulmox::app {

Page::Page(Document& document, const QString& question, QWidget* parent) : QWidget(parent), document_(document) {
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(20, 14, 16, 12);
    box->setSpacing(2);
    auto* title = new QLabel(question);
    title->setFont(type_face(20, Weight::strong));
    box->addWidget(title);
    sentence_ = new QLabel;
    sentence_->setObjectName(QStringLiteral("second"));
    sentence_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    box->addWidget(sentence_);
    box->addSpacing(8);
    body_ = new QVBoxLayout;
    body_->setSpacing(10);
    box->addLayout(body_, 1);
    connect(&document_, &Document::changed, this, [this] {
        if (isVisible()) refresh_sentence();
    });
}

void Page::activate() { refresh_sentence(); }

void Page::refresh_sentence() {
    const QString s = document_.has_axis() ? sentence() : tr("No axis yet: add one in the outline.");
    if (sentence_->text() != s) sentence_->setText(s);
    sentence_->setToolTip(plain_tip(s));
}

bool Page::go_to(const QString& path) {
    for (Form* f : forms_)
        if (f->go_to(path)) return true;
    return false;
}

void Page::lay_out(const std::vector<QWidget*>& inputs, QWidget* meaning, int input_width) {
    auto* line = new QHBoxLayout;
    line->setSpacing(12);
    auto* left = new QVBoxLayout;
    left->setSpacing(6);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFixedWidth(input_width);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget;
    auto* column = new QVBoxLayout(inner);
    column->setContentsMargins(2, 0, 10, 0);
    column->setSpacing(6);
    for (QWidget* w : inputs) column->addWidget(w);
    column->addStretch(1);
    inner->setObjectName(QStringLiteral("clear"));
    scroll->setWidget(inner);
    left->addWidget(scroll, 1);
    help_ = new HelpStrip(document_);
    help_->setFixedWidth(input_width);
    left->addWidget(help_);
    for (Form* f : forms_) {
        connect(f, &Form::focused, help_, &HelpStrip::show_field);
        connect(f, &Form::focused, this, &Page::show_input);
    }
    inputs_ = scroll;
    connect(&document_, &Document::opened, scroll, [scroll] { scroll->verticalScrollBar()->setValue(0); });
    line->addLayout(left);
    line->addWidget(meaning, 1);
    body_->addLayout(line, 1);
}

void Page::show_input(const QString& path) {
    if (QGuiApplication::mouseButtons() != Qt::NoButton) return; // what is under the pointer stays there
    // a field that has just been made has its place after the next layout
    QTimer::singleShot(0, this, [this, path] {
        QCoreApplication::sendPostedEvents(nullptr, QEvent::LayoutRequest);
        for (QWidget* w : inputs_->findChildren<QWidget*>(path))
            if (w->isVisibleTo(inputs_)) inputs_->ensureWidgetVisible(w, 0, 40);
    });
}

QString axis_sentence(Document& document) {
    const Axis& a = document.axis();
    const UnitSystem system = document.machine().unit_system;
    const Assessment& now = document.assessment();
    QStringList parts;
    const Motion motion = motion_of(a.mechanism);
    const bool carried = motion.has & Motion::payload;
    if (carried && a.load.payload.given()) {
        const std::vector<double> payloads =
            now.motion ? payloads_of(*now.motion, a.load.payload.si) : std::vector<double>{};
        double least = a.load.payload.si;
        double most = least;
        for (const double m : payloads) {
            least = std::min(least, m);
            most = std::max(most, m);
        }
        const double c = motion.has & Motion::carriage ? a.load.carriage_mass.value_or(0) : 0;
        const QString heavy = qs(format_quantity(c + most, Kind::mass, system));
        if (c + most > 0)
            parts << (least < most
                          ? QObject::tr("%1 to %2")
                                .arg(qs(format_number(from_si(c + least, display_unit(Kind::mass, system)))), heavy)
                          : heavy);
    }
    if (now.motion) {
        const double goes = std::max(now.motion->stroke(), std::abs(now.motion->advance));
        const Unit& unit = display_unit(motion_kind(Order::position, motion.rotary), system, goes);
        parts << QObject::tr("%1 in a cycle of %2")
                     .arg(qs(format_quantity(goes, unit)),
                         qs(format_quantity(now.motion->duration, Kind::time, system)));
    }
    if (const auto* s = std::get_if<Screw>(&a.mechanism); s && s->lead.given())
        parts << QObject::tr("%1 of %2 lead")
                     .arg(s->thread == Thread::ball          ? QObject::tr("ball screw")
                          : s->thread == Thread::trapezoidal ? QObject::tr("trapezoidal screw")
                                                             : QObject::tr("roller screw"),
                         qs(format_quantity(s->lead.si, Kind::length, system)));
    else
        parts << std::visit(
            [](const auto& held) { return QString::fromUtf8(std::decay_t<decltype(held)>::kind_label).toLower(); },
            a.mechanism);
    if ((motion.has & Motion::inclination) && a.load.inclination.given()) {
        const double g = a.load.inclination.si * 180 / 3.14159265358979323846;
        parts << (std::abs(g) < 0.5        ? QObject::tr("horizontal")
                  : std::abs(g - 90) < 0.5 ? QObject::tr("vertical")
                                           : QObject::tr("inclined %1°").arg(qs(format_number(g, 3))));
    }
    return parts.isEmpty() ? QObject::tr("Begin with what it carries: type masses, lead and diameter in any unit.")
                           : parts.join(QStringLiteral(", "));
}

} // namespace fulmox::app
