#include "app/first_axis.h"

#include "app/pages/registry.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/model/walk.h"

#include <QCoreApplication>
#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QTimer>
#include <algorithm>

namespace fulmox::app {

namespace {

QString in_words(const char* text) { return QCoreApplication::translate("FirstAxis", text); }

// The help of a field, its first sentence.
QString help_of(Document& document, const QString& path) {
    Machine copy = document.machine(); // the walk wants to write
    const auto field = find_field(copy, path.toStdString());
    if (!field || field->type != FieldRef::Type::quantity) return {};
    const QString help = QString::fromUtf8(field->quantity_spec.help);
    const qsizetype end = help.indexOf(QStringLiteral(". "));
    return end < 0 ? help : help.left(end + 1);
}

} // namespace

FirstStep next_step(Document& document, int passed) {
    if (!document.has_axis()) return {in_words("Add an axis in the outline."), {}};
    const QString axis = document.axis_path();
    if (passed == 0)
        return {in_words("Choose the mechanism: what turns the motor's rotation into motion."),
            axis + QStringLiteral("/mechanism"), true};
    const Assessment& a = document.assessment();
    const Problem* first = nullptr;
    int page = 0;
    for (const Problem& p : a.problems) {
        if (p.severity != Severity::error) continue;
        const QString path = qs(p.path);
        if (!path.startsWith(axis + QLatin1Char('/'))) continue;
        const int on = page_of(path.mid(axis.size()));
        if (!first || on < page) {
            first = &p;
            page = on;
        }
    }
    if (first) {
        const QString path = qs(first->path), name = field_name(first->field, path), help = help_of(document, path);
        return {help.isEmpty() ? in_words("%1: %2.").arg(name, qs(first->message))
                               : in_words("Enter %1. %2").arg(name, help),
            path};
    }
    if (passed == 1)
        return {in_words("Read what the cycle needs: peak torque, RMS torque, speed."),
            axis + QStringLiteral("/demand"), true};
    if (document.axis().motor.empty())
        return {in_words("Choose a motor: Enter takes the first suitable one."), axis + QStringLiteral("/motor")};
    return {in_words("The axis is complete. Open a limit to see its working; choose the other parts on their cards."),
        {}, true};
}

FieldMark::FieldMark(QWidget* window) : QWidget(window) {
    setAttribute(Qt::WA_TransparentForMouseEvents);
    setFocusPolicy(Qt::NoFocus);
    hide();
}

void FieldMark::show_on(QWidget* field) {
    if (field_ == field) return place();
    if (field_) field_->removeEventFilter(this);
    field_ = field;
    if (field_) field_->installEventFilter(this);
    place();
}

void FieldMark::place() {
    if (!field_ || !field_->isVisible()) return hide();
    const QRect there(field_->mapTo(parentWidget(), QPoint()), field_->size());
    setGeometry(there.adjusted(-4, -4, 4, 4));
    raise();
    show();
}

bool FieldMark::eventFilter(QObject* watched, QEvent* event) {
    switch (event->type()) {
    case QEvent::Move:
    case QEvent::Resize:
    case QEvent::Show:
    case QEvent::Hide:
    case QEvent::Paint: // it also moves where what it stands in is scrolled
        QTimer::singleShot(0, this, [this] { place(); });
        break;
    default:
        break;
    }
    return QWidget::eventFilter(watched, event);
}

void FieldMark::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(theme().accent, 2));
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
}

FirstAxis::FirstAxis(Document& document, QWidget* parent) : Live(document, parent) {
    setObjectName(QStringLiteral("banner"));
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(14, 5, 10, 5);
    says_ = new QLabel;
    says_->setObjectName(QStringLiteral("first-axis"));
    says_->setWordWrap(true);
    says_->setTextFormat(Qt::PlainText);
    line->addWidget(says_, 1);
    const auto button = [&](const QString& text, const char* action) {
        auto* b = new QPushButton(text);
        b->setProperty("action", QLatin1String(action));
        line->addWidget(b);
        return b;
    };
    show_ = button(QObject::tr("Show"), "first-show");
    next_ = button(QObject::tr("Next"), "first-next");
    auto* close = button(QObject::tr("End"), "first-end");
    connect(show_, &QPushButton::clicked, this, &FirstAxis::show_step);
    connect(next_, &QPushButton::clicked, this, [this] {
        ++passed_;
        refresh();
        show_step();
    });
    connect(close, &QPushButton::clicked, this, &FirstAxis::end);
    connect(&document, &Document::opened, this, &FirstAxis::end);
    hide();
}

void FirstAxis::begin() {
    running_ = true;
    passed_ = 0;
    refresh();
    show();
    show_step();
}

// A page is made when it is first shown: only then is there a field to mark.
void FirstAxis::show_step() {
    if (step_.path.isEmpty()) return;
    emit go_to(step_.path);
    mark_field();
}

void FirstAxis::end() {
    running_ = false;
    hide();
    if (mark_) mark_->show_on(nullptr);
}

void FirstAxis::refresh() {
    if (!running_) return;
    // a calculation that is still going on says nothing new
    if (document_.has_axis() && document_.assessment().pending) return;
    step_ = next_step(document_, passed_);
    says_->setText(QObject::tr("First axis: %1").arg(step_.words));
    show_->setVisible(!step_.path.isEmpty());
    next_->setVisible(step_.done_by_hand && !step_.path.isEmpty());
    mark_field();
}

void FirstAxis::mark_field() {
    QWidget* field = nullptr; // of several with its name the one that is on screen
    if (!step_.path.isEmpty())
        for (QWidget* w : window()->findChildren<QWidget*>(step_.path))
            if (!field || w->isVisible()) field = w;
    if (!mark_) mark_ = new FieldMark(window());
    mark_->show_on(field);
}

} // namespace fulmox::app
