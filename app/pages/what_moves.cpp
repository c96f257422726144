#include "app/pages/what_moves.h"

#include "app/bricks/paint.h"
#include "app/forms/body_picture.h"
#include "app/forms/mechanism_gallery.h"
#include "app/results/figures.h"
#include "app/results/inertia_view.h"
#include "app/schematic/schematic.h"
#include "app/words.h"

#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace fulmox::app {

namespace {

QString shape_of(const Body& b) {
    return std::visit(
        [](const auto& held) { return QString::fromUtf8(std::decay_t<decltype(held)>::kind_label).toLower(); },
        b.shape);
}

} // namespace

WhatMoves::WhatMoves(Document& document, QWidget* parent) : Page(document, tr(question), parent) {
    auto* form = new Form(document, {QStringLiteral("/name"), QStringLiteral("/mechanism"), QStringLiteral("/load"),
                                        QStringLiteral("!/mechanism/ends"), QStringLiteral("!/mechanism/nut_body")});
    bodies_ = new ListEditor(
        document, QStringLiteral("/bodies"), tr("Bodies"), tr("+ body"),
        [this] { return document_.has_axis() ? document_.axis().bodies.size() : 0; },
        [this](std::size_t i) {
            const Body& b = document_.axis().bodies[i];
            const QString name = b.name.empty() ? tr("Body %1").arg(i + 1) : qs(b.name);
            const QString what = b.hole ? tr("hole: %1").arg(shape_of(b)) : shape_of(b);
            return QStringLiteral("%1   %2%3")
                .arg(name, what, b.mass.given() ? QStringLiteral(", ") + qs(b.mass.text) : QString());
        });
    bodies_->set_picture([this] { return new BodyPicture(document_, [this] { return bodies_->current(); }); });
    stages_ = new ListEditor(
        document, QStringLiteral("/stages"), tr("Reduction, motor side first"), tr("+ stage"),
        [this] { return document_.has_axis() ? document_.axis().stages.size() : 0; },
        [this](std::size_t i) {
            const Stage& s = document_.axis().stages[i];
            return QStringLiteral("%1   i = %2")
                .arg(s.name.empty() ? QString::fromUtf8(Stage::kinds[static_cast<std::size_t>(s.kind)].label)
                                    : qs(s.name),
                    s.ratio.given() ? qs(s.ratio.text) : QStringLiteral("?"));
        });
    show_stages();
    rest_ = new Form(document, {});
    forms_.push_back(form);
    forms_.push_back(rest_);
    auto* right = new QWidget;
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    auto* drawing = new QFrame;
    QVBoxLayout* drawing_box = make_card(drawing, tr("The axis"));
    auto* choose = new QPushButton(tr("Choose a mechanism by its picture…"));
    choose->setObjectName(QStringLiteral("link"));
    connect(choose, &QPushButton::clicked, this, [this, choose] {
        if (!gallery_) gallery_ = new MechanismGallery(document_, this);
        gallery_->open_at(choose->mapToGlobal(QPoint(0, choose->height())));
    });
    static_cast<QHBoxLayout*>(drawing_box->itemAt(0)->layout())->addWidget(choose);
    auto* schematic = new Schematic(document);
    drawing_box->addWidget(schematic, 1);
    column->addWidget(drawing, 1);
    auto* statement = new QFrame;
    QLabel* unit = nullptr;
    QVBoxLayout* statement_box = make_card(statement, tr("Inertia at the motor shaft"), &unit);
    InertiaView::name_card(document, *statement, *unit);
    statement_box->addWidget(new InertiaView(document, false));
    statement_box->addWidget(new FigureList(document,
        {QStringLiteral("load.efficiency_forward"), QStringLiteral("load.efficiency_backward"),
            QStringLiteral("demand.static_torque")},
        1, false));
    column->addWidget(statement);
    connect(schematic, &Schematic::go_to, this, [this](const QString& path) {
        if (!go_to(path)) emit go_to_requested(path);
    });
    lay_out({form, bodies_, stages_, rest_}, right);
    for (ListEditor* l : {bodies_, stages_}) {
        connect(l, &ListEditor::focused, help_, &HelpStrip::show_field);
        connect(l, &ListEditor::focused, this, &WhatMoves::show_input);
    }
}

// A linear drive has no shaft for a reduction to turn.
void WhatMoves::show_stages() {
    stages_->setVisible(document_.has_axis() && (motion_of(document_.axis().mechanism).has & Motion::shaft));
}

void WhatMoves::refresh() {
    Page::refresh();
    show_stages();
}

void WhatMoves::complete() {
    rest_->set_places({QStringLiteral("/coupling/place"), QStringLiteral("/coupling/inertia"),
        QStringLiteral("/credit_friction_at_rest")});
}

bool WhatMoves::go_to(const QString& path) {
    complete();
    return bodies_->go_to(path) || stages_->go_to(path) || Page::go_to(path);
}

} // namespace fulmox::app
