#include "app/results/precision_view.h"

#include "app/bricks/plain_table.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"
#include "core/report/axis_report.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>
#include <cmath>

namespace fulmox::app {

PrecisionView::PrecisionView(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(2, 0, 2, 0);
    line->setSpacing(16);
    terms_ = plain_table(QStringLiteral("precision-terms"), tr("Errors at the load, term by term"));
    springs_ = plain_table(QStringLiteral("springs"), tr("What gives way, turned to the motor's shaft"));
    const auto column = [&](QTableWidget* table, MissingLabel*& says) {
        auto* box = new QVBoxLayout;
        box->setSpacing(2);
        box->addWidget(table, 1);
        says = new MissingLabel;
        says->setObjectName(QStringLiteral("second"));
        says->setFont(type_face(12));
        box->addWidget(says);
        line->addLayout(box, 1);
    };
    column(terms_, terms_say_);
    column(springs_, springs_say_);
}

void PrecisionView::refresh() {
    if (!document_.has_axis()) return;
    const Assessment& a = document_.assessment();
    const UnitSystem units = document_.machine().unit_system;
    Table table;
    QString says;
    if (const PrecisionBudget* p = a.precision ? &*a.precision : nullptr) {
        table = precision_table(*p, motion_of(document_.axis().mechanism).rotary, units);
        QStringList missing;
        for (const Missing& m : p->missing) missing << qs(m.name);
        if (!missing.isEmpty()) says = tr("Not known: %1.").arg(missing.join(QStringLiteral(", ")));
    } else {
        table.head = {"error at the load"};
        says = waiting_for(document_, "precision.worst_case");
    }
    fill(*terms_, table, 0);
    terms_say_->say(says, a.precision ? QString() : waiting_path(document_, "precision.worst_case"));
    says.clear();
    table = {};
    if (const StiffnessStatement* s = a.stiffness ? &*a.stiffness : nullptr) {
        table = stiffness_table(*s, units);
        if (s->springs.empty()) {
            says = tr("No compliance entered; treated as rigid.");
        } else if (s->two.load > 0) {
            const auto reach = [](double antiresonance) {
                return tr("%1 to %2 Hz")
                    .arg(qs(format_number(StiffnessStatement::slow_bandwidth(antiresonance), 3)),
                        qs(format_number(StiffnessStatement::fast_bandwidth(antiresonance), 3)));
            };
            says = tr("A velocity loop reaches about %1, a third to a half of the antiresonance")
                       .arg(reach(s->two.antiresonance));
            if (!s->antiresonances.empty()) says += tr(", by the whole chain %1").arg(reach(s->antiresonances.front()));
            says += QLatin1Char('.');
        }
        if (a.motion && std::isfinite(a.motion->shortest_ramp))
            says += tr(
                " To settle within its shortest ramp, %1 s, the motion asks for about %2 to %3 Hz (common practice).")
                        .arg(qs(format_number(a.motion->shortest_ramp, 3)),
                            qs(format_number(a.motion->least_bandwidth(), 3)),
                            qs(format_number(a.motion->ample_bandwidth(), 3)));
        QStringList schools;
        for (const SchoolView& v : a.schools)
            schools << tr("%1 %2").arg(qs(v.policy), QString::fromUtf8(state_words(v.state)));
        if (!schools.empty() && s->two.load > 0)
            says += tr(" Of the inertia ratio the schools say: %1.").arg(schools.join(QStringLiteral(", ")));
        says = says.trimmed();
    } else {
        table.head = {"what gives way"};
        says = waiting_for(document_, "stiffness.total");
    }
    fill(*springs_, table, 0);
    springs_say_->say(says, a.stiffness ? QString() : waiting_path(document_, "stiffness.total"));
}

} // namespace fulmox::app
