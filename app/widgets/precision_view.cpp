#include "app/widgets/precision_view.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>
#include <cmath>

namespace fulmox::app {

namespace {

QTableWidget* plain_table(const QStringList& heads, const QString& name) {
    auto* t = new QTableWidget(0, static_cast<int>(heads.size()));
    t->setHorizontalHeaderLabels(heads);
    t->setAccessibleName(name);
    t->setEditTriggers(QAbstractItemView::NoEditTriggers);
    t->setSelectionMode(QAbstractItemView::NoSelection);
    t->setShowGrid(false);
    t->setTabKeyNavigation(false);
    t->verticalHeader()->hide();
    t->verticalHeader()->setDefaultSectionSize(21);
    t->horizontalHeader()->setHighlightSections(false);
    t->horizontalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    t->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    t->horizontalHeaderItem(0)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (int c = 1; c < heads.size(); ++c) {
        t->setColumnWidth(c, c == 1 ? 94 : 76);
        t->horizontalHeaderItem(c)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    }
    return t;
}

void fill(QTableWidget* table, const std::vector<QStringList>& rows) {
    table->setRowCount(static_cast<int>(rows.size()));
    for (int r = 0; r < table->rowCount(); ++r)
        for (int c = 0; c < table->columnCount(); ++c) {
            auto* item = new QTableWidgetItem(rows[static_cast<std::size_t>(r)].value(c));
            if (c == 0) item->setToolTip(plain_tip(item->text()));
            if (c > 0) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            table->setItem(r, c, item);
        }
}

} // namespace

PrecisionView::PrecisionView(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(2, 0, 2, 0);
    line->setSpacing(16);
    terms_ = plain_table({tr("Error at the load"), tr("±"), tr("of the sum")}, tr("Errors at the load, term by term"));
    springs_ = plain_table({tr("What gives way"), tr("at the motor"), tr("of the give")},
        tr("What gives way, turned to the motor's shaft"));
    const auto column = [&](QTableWidget* table, QLabel*& says) {
        auto* box = new QVBoxLayout;
        box->setSpacing(2);
        box->addWidget(table, 1);
        says = new QLabel;
        says->setObjectName(QStringLiteral("second"));
        says->setFont(type_face(12));
        says->setWordWrap(true);
        says->setTextFormat(Qt::PlainText);
        box->addWidget(says);
        line->addLayout(box, 1);
    };
    column(terms_, terms_say_);
    column(springs_, springs_say_);
    connect(&document_, &Document::changed, this, [this] {
        if (isVisible()) refresh();
    });
}

void PrecisionView::showEvent(QShowEvent* event) {
    refresh();
    QWidget::showEvent(event);
}

void PrecisionView::refresh() {
    if (!document_.has_axis()) return;
    const Assessment& a = document_.assessment();
    const UnitSystem units = document_.machine().unit_system;
    const bool rotary = motion_of(document_.axis().mechanism).rotary;
    std::vector<QStringList> rows;
    QString says;
    if (const PrecisionBudget* p = a.precision ? &*a.precision : nullptr) {
        for (const ErrorTerm& t : p->terms)
            rows.push_back({qs(t.label) + (t.grows ? tr(", whole stroke") : QString()),
                qs(format_quantity(t.error, rotary ? Kind::angle : Kind::length, units, 3)),
                p->worst > 0 ? QStringLiteral("%1 %").arg(qs(format_number(100 * t.error / p->worst, 2))) : QString()});
        QStringList missing;
        for (const std::string& m : p->missing) missing << qs(m);
        if (!missing.isEmpty()) says = tr("Not known: %1.").arg(missing.join(QStringLiteral(", ")));
    } else {
        says = waiting_for(document_, "precision.worst");
    }
    fill(terms_, rows);
    terms_say_->setText(says);
    rows.clear();
    says.clear();
    if (const StiffnessStatement* s = a.stiffness ? &*a.stiffness : nullptr) {
        for (const Spring& k : s->springs)
            rows.push_back({qs(k.label), qs(format_quantity(k.at_motor, Kind::torsional_stiffness, units, 3)),
                QStringLiteral("%1 %").arg(qs(format_number(100 * s->total / k.at_motor, 2)))});
        if (s->springs.empty())
            says = tr("Everything is rigid as far as is said.");
        else if (std::isfinite(s->two.antiresonance)) {
            QStringList schools;
            for (const SchoolView& v : a.schools)
                schools << tr("%1 %2").arg(qs(v.policy), QString::fromUtf8(state_words(v.state)));
            says = tr("A velocity loop reaches about %1 to %2 Hz, a third to a half of the antiresonance. Of the "
                      "inertia ratio the "
                      "schools say: %3.")
                       .arg(qs(format_number(StiffnessStatement::slow_bandwidth(s->two.antiresonance), 3)),
                           qs(format_number(StiffnessStatement::fast_bandwidth(s->two.antiresonance), 3)),
                           schools.join(QStringLiteral(", ")));
        }
    } else {
        says = waiting_for(document_, "stiffness.total");
    }
    fill(springs_, rows);
    springs_say_->setText(says);
}

} // namespace fulmox::app
