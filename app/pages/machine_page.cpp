#include "app/pages/machine_page.h"

#include "app/bricks/paint.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QFrame>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <cmath>

namespace fulmox::app {

namespace {

constexpr int columns = 3;

} // namespace

MachinePage::MachinePage(Document& document, QWidget* parent) : Page(document, tr(question), parent) {
    auto* form = new Form(
        document, {QStringLiteral("//name"), QStringLiteral("//notes"), QStringLiteral("//currency"),
                      QStringLiteral("//site"), QStringLiteral("//operation"), QStringLiteral("//surroundings")});
    forms_.push_back(form);
    auto* more = new QFrame;
    auto* line = new QHBoxLayout(more);
    line->setContentsMargins(0, 8, 0, 0);
    const auto button = [&](const QString& text, void (MachinePage::*what)()) {
        auto* b = new QPushButton(text);
        connect(b, &QPushButton::clicked, this, what);
        line->addWidget(b);
    };
    button(tr("Policies…"), &MachinePage::policies_requested);
    button(tr("Materials…"), &MachinePage::materials_requested);
    line->addStretch(1);
    auto* card = new QFrame;
    QVBoxLayout* box = make_card(card, tr("Axes"));
    axes_ = new QTableWidget(0, columns);
    axes_->setObjectName(QStringLiteral("machine-axes"));
    axes_->setAccessibleName(tr("Axes of the machine by their tightest limit"));
    axes_->setHorizontalHeaderLabels({tr("axis"), tr("tightest limit"), tr("used")});
    axes_->verticalHeader()->hide();
    axes_->setSelectionBehavior(QAbstractItemView::SelectRows);
    axes_->setSelectionMode(QAbstractItemView::SingleSelection);
    axes_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    axes_->setTabKeyNavigation(false);
    axes_->setShowGrid(false);
    axes_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    axes_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    axes_->installEventFilter(this);
    connect(axes_, &QTableWidget::cellDoubleClicked, this, [this](int row, int) { emit axis_chosen(row); });
    box->addWidget(axes_, 1);
    lay_out({form, more}, card, 340);
}

void MachinePage::refresh() {
    Page::refresh();
    fill();
}

QString MachinePage::sentence() const {
    const auto& axes = document_.machine().axes;
    int over = 0, unsaid = 0;
    for (std::size_t i = 0; i < axes.size(); ++i) {
        const LimitCount n = count(document_.assessment(static_cast<int>(i)).limits);
        over += n.over > 0 ? 1 : 0;
        unsaid += n.over == 0 && n.cannot_say > n.accepted ? 1 : 0;
    }
    QStringList parts;
    parts << (axes.size() == 1 ? tr("one axis") : tr("%1 axes").arg(axes.size()));
    if (over > 0) parts << tr("%1 with a limit exceeded").arg(over);
    if (unsaid > 0) parts << tr("%1 with limits that cannot be said yet").arg(unsaid);
    return parts.join(QStringLiteral(", "));
}

void MachinePage::fill() {
    const auto& axes = document_.machine().axes;
    axes_->setRowCount(static_cast<int>(axes.size()));
    for (int row = 0; row < axes_->rowCount(); ++row) {
        const Axis& axis = axes[static_cast<std::size_t>(row)];
        const Assessment& a = document_.assessment(row);
        QString limit, state, use;
        QColor colour = theme().ink;
        if (!a.limits.empty()) {
            const Limit& worst = a.limits[*deciding(a.limits)];
            limit = qs(worst.label);
            state = QString::fromUtf8(state_words(worst.state));
            const double u = worst.yes_or_no ? std::nan("") : 100 * worst.utilisation();
            use = a.pending          ? QStringLiteral("…")
                  : std::isfinite(u) ? qs(format_number(u, 3)) + QStringLiteral(" %")
                                     : QString();
            colour = theme().state(worst.state);
        }
        const QString mechanism =
            std::visit([](const auto& held) { return QString::fromUtf8(std::decay_t<decltype(held)>::kind_label); },
                axis.mechanism);
        const QString texts[columns] = {qs(axis.name), limit, use.isEmpty() ? state : use + QLatin1Char(' ') + state};
        for (int c = 0; c < columns; ++c) {
            QTableWidgetItem* item = axes_->item(row, c);
            if (!item) axes_->setItem(row, c, item = new QTableWidgetItem);
            if (item->text() != texts[c]) {
                item->setText(texts[c]);
                item->setToolTip(plain_tip(c == 0 ? texts[c] + QStringLiteral(", ") + mechanism : texts[c]));
            }
            item->setForeground(c == 2 ? colour : theme().ink);
            item->setTextAlignment(c == 2 ? Qt::AlignRight | Qt::AlignVCenter : Qt::AlignLeft | Qt::AlignVCenter);
        }
    }
}

bool MachinePage::eventFilter(QObject* watched, QEvent* event) {
    if (watched == axes_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if ((key == Qt::Key_Return || key == Qt::Key_Enter) && axes_->currentRow() >= 0) {
            emit axis_chosen(axes_->currentRow());
            return true;
        }
    }
    return Page::eventFilter(watched, event);
}

} // namespace fulmox::app
