#include "app/pages/what_moves.h"

#include "app/schematic/screw_schematic.h"
#include "app/widgets/figures.h"
#include "app/widgets/inertia_view.h"
#include "app/widgets/paint.h"

#include <QFrame>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

namespace fulmox::app {

WhatMoves::WhatMoves(Document& document, QWidget* parent) : Page(document, tr("What moves?"), parent) {
    auto* form = new Form(document,
        {QStringLiteral("/name"), QStringLiteral("/load"), QStringLiteral("/mechanism"), QStringLiteral("/coupling"),
            QStringLiteral("/credit_friction_at_rest"), QStringLiteral("//site")});
    forms_.push_back(form);
    auto* right = new QWidget;
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    auto* drawing = new QFrame;
    QVBoxLayout* drawing_box = make_card(drawing, tr("The axis, lengths to scale"));
    auto* schematic = new ScrewSchematic(document);
    drawing_box->addWidget(schematic, 1);
    column->addWidget(drawing, 1);
    auto* statement = new QFrame;
    QLabel* unit = nullptr;
    QVBoxLayout* statement_box = make_card(statement, tr("Inertia at the motor shaft"), &unit);
    const auto show_unit = [unit, &document] {
        const auto symbol = display_unit(Kind::inertia, document.machine().unit_system).symbol;
        unit->setText(QString::fromUtf8(symbol.data(), static_cast<qsizetype>(symbol.size())));
    };
    show_unit();
    connect(&document, &Document::changed, unit, show_unit);
    statement_box->addWidget(new InertiaView(document, false));
    statement_box->addWidget(
        new FigureList(document, {QStringLiteral("load.efficiency_forward"), QStringLiteral("load.efficiency_backward"),
                                     QStringLiteral("demand.static_torque")}));
    column->addWidget(statement);
    connect(schematic, &ScrewSchematic::go_to, this, [this](const QString& path) {
        if (!go_to(path)) emit go_to_requested(path);
    });
    lay_out({form}, right);
}

} // namespace fulmox::app
