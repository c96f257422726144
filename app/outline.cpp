#include "app/outline.h"

#include "app/pages/registry.h"
#include "app/theme.h"
#include "app/widgets/paint.h"
#include "core/quantity/format.h"

#include <QAction>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QVBoxLayout>
#include <cmath>

namespace fulmox::app {

OutlineItem::OutlineItem(const QString& text, QWidget* parent) : QPushButton(text, parent) {
    setCheckable(true);
    setFlat(true);
    setFixedHeight(30);
    setCursor(Qt::PointingHandCursor);
}

void OutlineItem::set_state(LimitState state, const QString& figure) {
    const QString name =
        text() + QStringLiteral(", ") + QString::fromUtf8(state_words(state)) + QLatin1Char(' ') + figure;
    if (state_ == state && figure_ == figure && accessibleName() == name) return;
    state_ = state;
    figure_ = figure;
    setAccessibleName(name);
    update();
}

void OutlineItem::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
    const bool full = isChecked() && accented_;
    if (isChecked()) {
        p.setPen(full ? Qt::NoPen : QPen(t.line));
        p.setBrush(full ? t.accent : t.panel);
        p.drawRoundedRect(box, 6, 6);
    } else if (underMouse()) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.accent_ground);
        p.drawRoundedRect(box, 6, 6);
    }
    if (hasFocus()) {
        p.setPen(QPen(full ? t.accent_ink : t.accent, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(full ? box.adjusted(2, 2, -2, -2) : box, 6, 6);
    }
    const QColor ink = full ? t.accent_ink : t.ink;
    QRect line = rect().adjusted(10, 0, -8, 0);
    p.setFont(type_face(13, isChecked() ? Weight::strong : Weight::regular));
    if (number_ > 0) {
        p.setPen(full ? t.accent_ink : t.second);
        p.drawText(line, Qt::AlignVCenter, QString::number(number_));
        line.setLeft(line.left() + 18);
    }
    if (state_) {
        p.setPen(full ? t.accent_ink : t.second);
        p.drawText(line, Qt::AlignVCenter | Qt::AlignRight, figure_);
        const int w = std::max(36, p.fontMetrics().horizontalAdvance(figure_) + 4);
        draw_state(p, QRectF(line.right() - w - 10, height() / 2.0 - 5, 10, 10), *state_);
        line.setRight(line.right() - w - 13);
    }
    p.setPen(ink);
    p.drawText(line, Qt::AlignVCenter, p.fontMetrics().elidedText(text(), Qt::ElideRight, line.width()));
}

namespace {

QLabel* heading(const QString& text) {
    auto* l = new QLabel(text);
    l->setObjectName(QStringLiteral("second"));
    l->setFont(type_face(12, Weight::strong));
    l->setContentsMargins(10, 10, 0, 3);
    return l;
}

} // namespace

Outline::Outline(Document& document, QWidget* parent) : QFrame(parent), document_(document) {
    setObjectName(QStringLiteral("rail"));
    setFixedWidth(206);
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(8, 4, 8, 8);
    box->setSpacing(1);
    box->addWidget(heading(tr("Axes of the machine")));
    axes_box_ = new QVBoxLayout;
    axes_box_->setSpacing(1);
    box->addLayout(axes_box_);
    auto* add = new QPushButton(tr("+ axis"));
    add->setObjectName(QStringLiteral("link"));
    add->setContentsMargins(10, 0, 0, 0);
    connect(add, &QPushButton::clicked, this, [this] {
        const int at = static_cast<int>(document_.machine().axes.size());
        document_.edit_list(tr("new axis"), {QStringLiteral("/axes"), -1, at}, [](Machine& m) {
            Axis a;
            a.name = "Axis " + std::to_string(m.axes.size() + 1);
            a.cycle.segments.emplace_back();
            m.axes.push_back(std::move(a));
        });
        document_.select_axis(static_cast<int>(document_.machine().axes.size()) - 1);
        emit page_chosen(0);
    });
    box->addWidget(add, 0, Qt::AlignLeft);
    box->addSpacing(6);
    box->addWidget(heading(tr("This axis")));
    for (const PageEntry& entry : page_registry()) {
        auto* item = new OutlineItem(tr(entry.question));
        const int number = static_cast<int>(pages_.size()) + 1;
        item->set_number(number);
        item->set_accented(true);
        item->setObjectName(QStringLiteral("page/%1").arg(number));
        connect(item, &QPushButton::clicked, this, [this, page = number - 1] {
            set_page(page);
            emit page_chosen(page);
        });
        pages_.push_back(item);
        box->addWidget(item);
    }
    box->addStretch(1);
    connect(&document_, &Document::changed, this, &Outline::refresh);
    set_page(0);
    setFocusProxy(pages_.front());
    refresh();
}

void Outline::set_page(int page) {
    page_ = page;
    for (std::size_t i = 0; i < pages_.size(); ++i) {
        // the focus goes along with the page, it does not stay on another one
        if (static_cast<int>(i) != page && pages_[i]->hasFocus()) pages_[static_cast<std::size_t>(page)]->setFocus();
        pages_[i]->setChecked(static_cast<int>(i) == page);
    }
}

void Outline::refresh() {
    const auto& axes = document_.machine().axes;
    while (axes_.size() > axes.size()) {
        axes_.back()->deleteLater();
        axes_.pop_back();
    }
    while (axes_.size() < axes.size()) {
        const int index = static_cast<int>(axes_.size());
        auto* item = new OutlineItem({});
        item->setObjectName(QStringLiteral("axis/%1").arg(index));
        item->setContextMenuPolicy(Qt::ActionsContextMenu);
        auto* duplicate = new QAction(tr("Duplicate axis"), item);
        auto* remove = new QAction(tr("Delete axis"), item);
        connect(duplicate, &QAction::triggered, this, [this, index] {
            document_.edit_list(tr("duplicate axis"), {QStringLiteral("/axes"), -1, index + 1}, [index](Machine& m) {
                Axis copy = m.axes.at(static_cast<std::size_t>(index));
                copy.name += " copy";
                m.axes.insert(m.axes.begin() + index + 1, std::move(copy));
            });
        });
        connect(remove, &QAction::triggered, this, [this, index] {
            if (document_.machine().axes.size() < 2) return;
            document_.edit_list(tr("delete axis"), {QStringLiteral("/axes"), index, -1},
                [index](Machine& m) { m.axes.erase(m.axes.begin() + index); });
        });
        item->addActions({duplicate, remove});
        connect(item, &QPushButton::clicked, this, [this, index] {
            document_.select_axis(index);
            refresh();
        });
        axes_box_->addWidget(item);
        axes_.push_back(item);
    }
    for (std::size_t i = 0; i < axes.size(); ++i) {
        if (const QString name = QString::fromStdString(axes[i].name); name != axes_[i]->text()) {
            axes_[i]->setText(name);
            axes_[i]->setShortcut({}); // "&" in a name is a letter
        }
        axes_[i]->setChecked(static_cast<int>(i) == document_.axis_index());
        if (!all_ && static_cast<int>(i) != document_.axis_index()) continue; // not before the first picture
        const Assessment& a = document_.assessment(static_cast<int>(i));
        if (a.limits.empty()) continue;
        const Limit& worst = a.limits[by_tightness(a.limits).front()];
        const double u = 100 * worst.utilisation();
        const QString figure = a.pending                               ? QStringLiteral("…")
                               : worst.state == LimitState::cannot_say ? QStringLiteral("?")
                               : std::isfinite(u) ? QStringLiteral("%1 %").arg(std::lround(std::min(u, 9999.0)))
                                                  : tr("over");
        axes_[i]->set_state(worst.state, figure);
        if (const QString tip = tr("Tightest: %1").arg(QString::fromStdString(worst.label)); tip != axes_[i]->toolTip())
            axes_[i]->setToolTip(tip);
    }
}

} // namespace fulmox::app
