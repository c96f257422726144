#include "app/pages/what_takes.h"

#include "app/theme.h"
#include "app/widgets/paint.h"
#include "app/widgets/share_bars.h"
#include "core/quantity/format.h"

#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>

namespace fulmox::app {

WhatTakes::WhatTakes(Document& document, QWidget* parent) : Page(document, tr("What does it take?"), parent) {
    body_->addWidget(
        new FigureTiles(document, {QStringLiteral("demand.peak_torque"), QStringLiteral("demand.rms_torque"),
                                      QStringLiteral("demand.holding_torque"), QStringLiteral("demand.peak_power"),
                                      QStringLiteral("demand.emergency_torque")}));
    auto* card = new QFrame;
    QVBoxLayout* box = make_card(card, tr("Torque at the motor shaft, by cause"));
    auto* legend = new QLabel;
    legend->setFont(type_face(12));
    legend->setTextFormat(Qt::RichText);
    const auto show_legend = [legend] {
        QString s;
        for (int c = 0; c < cause_count; ++c)
            s += QStringLiteral("<span style='color:%1'>■</span> %2 &nbsp;&nbsp; ")
                     .arg(theme().cause[c].name(), QString::fromUtf8(cause_label(static_cast<Cause>(c))));
        s += QStringLiteral("<span style='color:%1'><b>—</b></span> %2").arg(theme().ink.name(), tr("together"));
        if (legend->text() != s) legend->setText(s);
    };
    show_legend();
    connect(&document, &Document::changed, legend, show_legend);
    box->addWidget(legend);
    plot_ = new TorquePlot(document);
    box->addWidget(plot_, 1);
    body_->addWidget(card, 1);
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    auto* shares = new QFrame;
    make_card(shares, tr("Who wants it"))->addWidget(new ShareBars(document));
    row->addWidget(shares, 5);
    auto* energy = new QFrame;
    QVBoxLayout* energy_box = make_card(energy, tr("Energy and ratio"));
    energy_box->addWidget(new FigureList(
        document, {QStringLiteral("demand.energy_delivered"), QStringLiteral("demand.energy_returned"),
                      QStringLiteral("demand.peak_return"), QStringLiteral("demand.rms_speed"),
                      QStringLiteral("demand.axial_force"), QStringLiteral("demand.best_ratio"),
                      QStringLiteral("demand.best_ratio_rms"), QStringLiteral("demand.best_ratio_speed")}));
    energy_box->addStretch(1);
    row->addWidget(energy, 4);
    body_->addLayout(row);
}

QString WhatTakes::sentence() const {
    const Assessment& a = document_.assessment();
    if (!a.demand) return tr("The demand appears when pages 1 and 2 are complete; the ledger lists what is missing.");
    const UnitSystem system = document_.machine().unit_system;
    const auto text = [&](double si, Kind k) { return QString::fromStdString(format_quantity(si, k, system)); };
    return tr("%1 at the peak, %2 RMS over %3, up to %4")
        .arg(text(std::abs(a.demand->peak.torque), Kind::torque), text(a.demand->rms_torque, Kind::torque),
            text(a.demand->cycle_time, Kind::time), text(a.demand->peak_speed, Kind::angular_speed));
}

void WhatTakes::activate() {
    Page::activate();
    plot_->refresh();
    for (FigureTiles* f : findChildren<FigureTiles*>()) f->refresh();
    for (FigureList* f : findChildren<FigureList*>()) f->refresh();
}

} // namespace fulmox::app
