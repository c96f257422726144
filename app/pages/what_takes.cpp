#include "app/pages/what_takes.h"
#include "app/words.h"

#include "app/plots/path_plot.h"
#include "app/theme.h"
#include "app/widgets/choice.h"
#include "app/widgets/paint.h"
#include "app/widgets/share_bars.h"
#include "app/widgets/tornado.h"
#include "core/quantity/format.h"

#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QTabWidget>
#include <QVBoxLayout>

namespace fulmox::app {

WhatTakes::WhatTakes(Document& document, QWidget* parent) : Page(document, tr(question), parent) {
    body_->addWidget(new FigureTiles(document, {{QStringLiteral("demand.peak_torque"), tr("Peak torque")},
                                                   {QStringLiteral("demand.rms_torque"), tr("RMS torque")},
                                                   {QStringLiteral("demand.holding_torque"), tr("Holding torque")},
                                                   {QStringLiteral("demand.peak_power"), tr("Peak power")},
                                                   {QStringLiteral("demand.emergency_torque"), tr("Emergency stop")}}));
    auto* card = new QFrame;
    card->setObjectName(QStringLiteral("card"));
    auto* box = new QVBoxLayout(card);
    box->setContentsMargins(10, 4, 10, 8);
    auto* tabs = new QTabWidget;
    tabs->setAccessibleName(tr("Pictures of the demand"));
    box->addWidget(tabs);
    auto* over_time = new QWidget;
    auto* time_box = new QVBoxLayout(over_time);
    time_box->setContentsMargins(4, 4, 4, 0);
    auto* legend = new QLabel;
    legend->setFont(type_face(12));
    legend->setTextFormat(Qt::RichText);
    const auto show_legend = [legend, &document] {
        QString s;
        for (int c = 0; c < cause_count; ++c)
            s += QStringLiteral("<span style='color:%1'>■</span> %2 &nbsp;&nbsp; ")
                     .arg(theme().cause[c].name(), QString::fromUtf8(cause_label(static_cast<Cause>(c))));
        s += QStringLiteral("<span style='color:%1'><b>—</b></span> %2").arg(theme().ink.name(), tr("together"));
        if (document.pinned())
            s += QStringLiteral(" &nbsp;&nbsp; <span style='color:%1'><b>- -</b></span> %2")
                     .arg(theme().over.name(), tr("A, as pinned"));
        if (legend->text() != s) legend->setText(s);
    };
    show_legend();
    connect(&document, &Document::changed, legend, show_legend);
    time_box->addWidget(legend);
    plot_ = new TorquePlot(document);
    time_box->addWidget(plot_, 1);
    tabs->addTab(over_time, tr("By cause over time"));
    auto* path = new PathPlot(document);
    tabs->addTab(path, tr("Path in speed and torque"));
    auto* inputs = new QWidget;
    auto* inputs_box = new QVBoxLayout(inputs);
    inputs_box->setContentsMargins(4, 4, 4, 0);
    auto* tornado = new Tornado(document);
    auto* measure = new Choice;
    measure->setObjectName(QStringLiteral("measure"));
    measure->setAccessibleName(tr("What the inputs move"));
    measure->addItem(tr("RMS torque"));
    measure->addItem(tr("Peak torque"));
    connect(measure, &QComboBox::activated, tornado,
        [tornado](int i) { tornado->set_measure(i == 0 ? Measure::rms_torque : Measure::peak_torque); });
    connect(tornado, &Tornado::go_to, this, &Page::go_to_requested);
    inputs_box->addWidget(tornado, 1);
    tabs->addTab(inputs, tr("Which input moves it"));
    tabs->setCornerWidget(measure);
    measure->hide();
    connect(tabs, &QTabWidget::currentChanged, measure, [measure](int tab) { measure->setVisible(tab == 2); });
    body_->addWidget(card, 1);
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    auto* shares = new QFrame;
    make_card(shares, tr("Share of each cause"))->addWidget(new ShareBars(document));
    row->addWidget(shares, 5);
    auto* energy = new QFrame;
    QVBoxLayout* energy_box = make_card(energy, tr("Energy and ratio"));
    energy_box->addWidget(new FigureList(
        document, {QStringLiteral("demand.energy_delivered"), QStringLiteral("demand.energy_returned"),
                      QStringLiteral("demand.peak_return"), QStringLiteral("demand.rms_speed"),
                      QStringLiteral("demand.axial_force"), QStringLiteral("demand.best_ratio"),
                      QStringLiteral("demand.best_ratio_rms"), QStringLiteral("demand.best_ratio_speed"),
                      QStringLiteral("demand.fill_0.rms_torque"), QStringLiteral("demand.fill_2.rms_torque"),
                      QStringLiteral("demand.fill_4.rms_torque"), QStringLiteral("demand.fill_0.peak_torque"),
                      QStringLiteral("demand.fill_4.peak_torque")}));
    energy_box->addStretch(1);
    row->addWidget(energy, 4);
    body_->addLayout(row);
}

QString WhatTakes::sentence() const {
    const Assessment& a = document_.assessment();
    if (a.pending) return tr("Being calculated…");
    if (!a.demand) return tr("The demand %1.").arg(waiting_for(document_, "demand.peak_torque"));
    const UnitSystem system = document_.machine().unit_system;
    const bool direct = motion_of(document_.axis().mechanism).direct;
    const Kind force = direct ? Kind::force : Kind::torque;
    const QString fill = a.fill_shown.empty() ? QString() : tr("; shown with the roll %1").arg(qs(a.fill_shown));
    const auto text = [&](double si, Kind k) { return QString::fromStdString(format_quantity(si, k, system)); };
    return tr("%1 at the peak, %2 RMS over %3, up to %4")
               .arg(text(std::abs(a.demand->peak.torque), force), text(a.demand->rms_torque, force),
                   text(a.demand->cycle_time, Kind::time),
                   text(a.demand->peak_speed, direct ? Kind::speed : Kind::angular_speed)) +
           fill;
}

void WhatTakes::activate() {
    Page::activate();
    plot_->refresh();
    for (FigureTiles* f : findChildren<FigureTiles*>()) f->refresh();
    for (FigureList* f : findChildren<FigureList*>()) f->refresh();
}

} // namespace fulmox::app
