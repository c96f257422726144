#include "app/pages/what_takes.h"
#include "app/words.h"

#include "app/bricks/choice.h"
#include "app/bricks/paint.h"
#include "app/plots/path_plot.h"
#include "app/plots/torque_plot.h"
#include "app/results/figures.h"
#include "app/results/share_bars.h"
#include "app/results/tornado.h"
#include "app/theme.h"
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
    tabs_ = new QTabWidget;
    tabs_->setAccessibleName(tr("Pictures of the demand"));
    box->addWidget(tabs_);
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
    keep_up_to_date(document, legend, show_legend);
    time_box->addWidget(legend);
    time_box->addWidget(new TorquePlot(document), 1);
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
    QWidget* of_tab[] = {over_time, new PathPlot(document), inputs};
    for (std::size_t i = 0; i < tabs().size(); ++i) tabs_->addTab(of_tab[i], tr(tabs()[i].name));
    tabs_->setCornerWidget(measure);
    measure->hide();
    connect(tabs_, &QTabWidget::currentChanged, measure,
        [this, measure, inputs] { measure->setVisible(tabs_->currentWidget() == inputs); });
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

const std::vector<TabEntry>& WhatTakes::tabs() {
    static const std::vector<TabEntry> entries{{"causes", QT_TR_NOOP("By cause over time")},
        {"path", QT_TR_NOOP("Path in speed and torque")}, {"inputs", QT_TR_NOOP("Which input moves it")}};
    return entries;
}

bool WhatTakes::show_tab(const QString& tab) {
    for (std::size_t i = 0; i < tabs().size(); ++i)
        if (tab == QLatin1String(tabs()[i].key)) {
            tabs_->setCurrentIndex(static_cast<int>(i));
            return true;
        }
    return false;
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

} // namespace fulmox::app
