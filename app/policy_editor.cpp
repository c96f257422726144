#include "app/policy_editor.h"
#include "app/words.h"

#include "app/theme.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace fulmox::app {

PolicyEditor::PolicyEditor(Document& document, QWidget* parent) : QDialog(parent), document_(document) {
    setWindowTitle(tr("Policies of this project"));
    setObjectName(QStringLiteral("policies"));
    setModal(false);
    resize(760, 470);
    auto* line = new QHBoxLayout(this);
    line->setSpacing(14);
    auto* left = new QVBoxLayout;
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Policies"));
    list_->setFixedWidth(200);
    left->addWidget(list_, 1);
    auto* buttons = new QHBoxLayout;
    auto* copy = new QPushButton(tr("Copy"));
    copy->setObjectName(QStringLiteral("copy-policy"));
    copy->setToolTip(tr("A copy of the selected policy, to be changed"));
    remove_ = new QPushButton(tr("Delete"));
    remove_->setObjectName(QStringLiteral("delete-policy"));
    buttons->addWidget(copy);
    buttons->addWidget(remove_);
    left->addLayout(buttons);
    line->addLayout(left);
    auto* right = new QVBoxLayout;
    form_ = new Form(document, {QStringLiteral("//policies/0")}, 170);
    right->addWidget(form_);
    right->addStretch(1);
    help_ = new HelpStrip(document);
    right->addWidget(help_);
    line->addLayout(right, 1);
    // Enter in a field is not a press of a button
    for (QPushButton* b : {copy, remove_}) b->setAutoDefault(false);
    connect(form_, &Form::focused, help_, &HelpStrip::show_field);
    connect(list_, &QListWidget::currentRowChanged, this, &PolicyEditor::select);
    connect(copy, &QPushButton::clicked, this, [this] {
        const int at = list_->currentRow();
        if (at < 0) return;
        document_.edit_list(tr("copy policy"), {QStringLiteral("/policies"), -1, at + 1}, [at](Machine& m) {
            Policy p = m.policies.at(static_cast<std::size_t>(at));
            const std::string stem = p.name + ", copy";
            p.name = stem;
            for (int n = 2;; ++n) {
                bool taken = false;
                for (const Policy& other : m.policies) taken = taken || other.name == p.name;
                if (!taken) break;
                p.name = stem + " " + std::to_string(n);
            }
            m.policies.insert(m.policies.begin() + at + 1, std::move(p));
        });
        list_->setCurrentRow(at + 1);
    });
    connect(remove_, &QPushButton::clicked, this, [this] {
        const int at = list_->currentRow();
        if (at < 0 || document_.machine().policies.size() < 2) return;
        document_.edit_list(tr("delete policy"), {QStringLiteral("/policies"), at, -1},
            [at](Machine& m) { m.policies.erase(m.policies.begin() + at); });
    });
    connect(&document_, &Document::changed, this, &PolicyEditor::refresh);
    refresh();
    list_->setCurrentRow(0);
}

QString PolicyEditor::in_use_by(const std::string& name) const {
    QStringList axes;
    for (const Axis& a : document_.machine().axes)
        if (a.policy == name) axes << qs(a.name);
    return axes.join(QStringLiteral(", "));
}

void PolicyEditor::refresh() {
    const auto& policies = document_.machine().policies;
    const QSignalBlocker quiet(list_);
    const int row = std::clamp(list_->currentRow(), 0, std::max(0, static_cast<int>(policies.size()) - 1));
    while (list_->count() > static_cast<int>(policies.size())) delete list_->takeItem(list_->count() - 1);
    while (list_->count() < static_cast<int>(policies.size())) list_->addItem(QString());
    for (std::size_t i = 0; i < policies.size(); ++i) {
        const QString used = in_use_by(policies[i].name);
        list_->item(static_cast<int>(i))
            ->setText(qs(policies[i].name) + (used.isEmpty() ? QString() : tr("\njudges %1").arg(used)));
    }
    list_->setCurrentRow(row);
    select(row);
}

void PolicyEditor::select(int index) {
    const auto& policies = document_.machine().policies;
    form_->setVisible(index >= 0);
    if (index < 0 || index >= static_cast<int>(policies.size())) return;
    form_->set_places({QStringLiteral("//policies/%1").arg(index)});
    const QString used = in_use_by(policies[static_cast<std::size_t>(index)].name);
    remove_->setEnabled(policies.size() > 1 && used.isEmpty());
    remove_->setToolTip(used.isEmpty() ? tr("Take this policy out of the project")
                                       : plain_tip(tr("It judges %1; choose another there first").arg(used)));
}

} // namespace fulmox::app
