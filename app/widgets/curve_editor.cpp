#include "app/widgets/curve_editor.h"

#include "app/theme.h"

#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace fulmox::app {

namespace {
constexpr int edit_width = 78, remove_width = 22;
}

CurveEditor::CurveEditor(Document& document, QString heading, QString place, QWidget* parent)
    : QWidget(parent), document_(document), place_(std::move(place)) {
    setMinimumWidth(2 * edit_width + remove_width + 6); // nothing moves aside when the first point comes
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(3);
    auto* title = new QLabel(heading);
    title->setFont(type_face(13, Weight::strong));
    box->addWidget(title);
    grid_ = new QGridLayout;
    grid_->setSpacing(3);
    box->addLayout(grid_);
    auto* add = new QPushButton(tr("+ point"));
    add->setObjectName(QStringLiteral("link"));
    connect(add, &QPushButton::clicked, this, [this] {
        const int at = static_cast<int>(edits_.size()) / 2;
        edit_list(tr("new point"), -1, at, [](FieldRef& f) { f.list_insert(f.list_size()); });
    });
    box->addWidget(add, 0, Qt::AlignLeft);
    box->addStretch(1);
    connect(&document_, &Document::changed, this, [this] {
        if (isVisible()) refresh();
    });
    refresh();
}

void CurveEditor::showEvent(QShowEvent* event) {
    refresh();
    QWidget::showEvent(event);
}

void CurveEditor::edit_list(const QString& name, int from, int to, const std::function<void(FieldRef&)>& change) {
    const QString list = document_.axis_path() + place_;
    document_.edit_list(name, {list, from, to}, [&](Machine& m) {
        if (auto f = find_field(m, list.toStdString())) change(*f);
    });
}

void CurveEditor::rebuild(std::size_t count) {
    edits_.clear();
    while (QLayoutItem* item = grid_->takeAt(0)) {
        if (QWidget* w = item->widget()) {
            w->hide();
            w->deleteLater();
        }
        delete item;
    }
    const QString base = document_.axis_path() + place_ + QLatin1Char('/');
    for (std::size_t i = 0; i < count; ++i) {
        int column = 0;
        for (const char* key : {"speed", "torque"}) {
            auto* e = new QuantityEdit(document_, base + QStringLiteral("%1/%2").arg(i).arg(QLatin1String(key)));
            e->setObjectName(e->path());
            e->setAccessibleName(tr("point %1, %2").arg(i + 1).arg(QLatin1String(key)));
            e->setPlaceholderText(column == 0 ? tr("rpm") : tr("N·m"));
            e->setFixedWidth(edit_width);
            connect(e, &QuantityEdit::focused, this, &CurveEditor::focused);
            connect(e, &QuantityEdit::problem_changed, e, [e] { e->setToolTip(e->problem()); });
            grid_->addWidget(e, static_cast<int>(i), column++);
            edits_.push_back(e);
        }
        auto* remove = new QToolButton;
        remove->setText(QStringLiteral("×"));
        remove->setFixedWidth(remove_width);
        remove->setToolTip(tr("Remove this point"));
        remove->setAccessibleName(tr("Remove point %1").arg(i + 1));
        connect(remove, &QToolButton::clicked, this, [this, i] {
            edit_list(tr("remove point"), static_cast<int>(i), -1, [i](FieldRef& f) { f.list_erase(i); });
        });
        grid_->addWidget(remove, static_cast<int>(i), column);
    }
}

void CurveEditor::refresh() {
    if (!document_.has_axis()) return;
    Machine copy = document_.machine();
    const FieldRefs fields =
        walk(copy.axes[static_cast<std::size_t>(document_.axis_index())], document_.axis_path().toStdString());
    const std::string at = (document_.axis_path() + place_).toStdString();
    std::size_t count = 0;
    for (const FieldRef& f : fields)
        if (f.path == at) count = f.list_size();
    const QString now = document_.axis_path() + QString::number(count);
    if (now != built_for_) {
        built_for_ = now;
        rebuild(count);
    }
    for (QuantityEdit* e : edits_)
        for (const FieldRef& f : fields)
            if (f.path == e->path().toStdString()) e->refresh(f);
}

} // namespace fulmox::app
