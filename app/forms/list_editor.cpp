#include "app/forms/list_editor.h"

#include "app/theme.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace fulmox::app {

ListEditor::ListEditor(Document& document, QString place, const QString& heading, const QString& add_text,
    std::function<std::size_t()> size, std::function<QString(std::size_t)> sentence, QWidget* parent)
    : LiveWidget(document, parent), place_(std::move(place)), size_(std::move(size)), sentence_(std::move(sentence)) {
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 8, 0, 0);
    box->setSpacing(2);
    auto* line = new QHBoxLayout;
    auto* title = new QLabel(heading);
    title->setFont(type_face(13, Weight::strong));
    line->addWidget(title, 1);
    auto* add = new QPushButton(add_text);
    add->setObjectName(QStringLiteral("link"));
    add->setAccessibleName(tr("%1 to %2").arg(add_text, heading));
    connect(add, &QPushButton::clicked, this, [this] {
        const int at = current() + 1;
        edit(
            tr("new entry"), -1, at, [at](FieldRef& f) { f.list.insert(static_cast<std::size_t>(at)); }, at);
    });
    line->addWidget(add);
    box->addLayout(line);
}

QString ListEditor::absolute() const {
    return place_.startsWith(QLatin1String("//")) ? place_.mid(1) : document_.axis_path() + place_;
}

void ListEditor::build() {
    content_ = new QWidget;
    auto* box = new QVBoxLayout(content_);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(3);
    list_ = new QListWidget;
    list_->setAccessibleName(place_.section(QLatin1Char('/'), -1));
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    box->addWidget(list_);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(4);
    const auto button = [&](const QString& text, const QString& name, auto action) {
        auto* b = new QPushButton(text);
        b->setObjectName(QStringLiteral("link"));
        b->setAccessibleName(name);
        b->setToolTip(name);
        connect(b, &QPushButton::clicked, this, [this, name, action] {
            const int at = current();
            if (at >= 0) action(at, name);
        });
        buttons->addWidget(b);
    };
    button(tr("Duplicate"), tr("Duplicate the selected entry"), [this](int at, const QString& name) {
        edit(
            name, -1, at + 1, [at](FieldRef& f) { f.list.duplicate(static_cast<std::size_t>(at)); }, at + 1);
    });
    button(tr("Delete"), tr("Delete the selected entry"), [this](int at, const QString& name) {
        edit(
            name, at, -1, [at](FieldRef& f) { f.list.erase(static_cast<std::size_t>(at)); }, std::max(0, at - 1));
    });
    button(QStringLiteral("▲"), tr("Move the entry up"), [this](int at, const QString& name) {
        if (at > 0)
            edit(
                name, at, at - 1,
                [at](FieldRef& f) { f.list.move(static_cast<std::size_t>(at), static_cast<std::size_t>(at - 1)); },
                at - 1);
    });
    button(QStringLiteral("▼"), tr("Move the entry down"), [this](int at, const QString& name) {
        if (at + 1 < list_->count())
            edit(
                name, at, at + 1,
                [at](FieldRef& f) { f.list.move(static_cast<std::size_t>(at), static_cast<std::size_t>(at + 1)); },
                at + 1);
    });
    buttons->addStretch(1);
    box->addLayout(buttons);
    QWidget* picture = picture_ ? picture_() : nullptr;
    if (picture) box->addWidget(picture);
    form_ = new Form(document_, {place_ + QStringLiteral("/0")});
    connect(form_, &Form::focused, this, &ListEditor::focused);
    box->addWidget(form_);
    connect(list_, &QListWidget::currentRowChanged, this, [this, picture](int row) {
        form_->set_places({place_ + QStringLiteral("/%1").arg(std::max(0, row))});
        if (picture) picture->update();
    });
    layout()->addWidget(content_);
}

void ListEditor::refresh() {
    const int size = static_cast<int>(size_());
    if (size == 0) {
        if (content_) content_->hide();
        return;
    }
    if (!content_) build();
    content_->show();
    const int selected = std::clamp(current(), 0, size - 1);
    {
        const QSignalBlocker quiet(list_);
        while (list_->count() > size) delete list_->takeItem(list_->count() - 1);
        while (list_->count() < size) list_->addItem(QString());
        for (int i = 0; i < size; ++i) {
            const QString text = sentence_(static_cast<std::size_t>(i));
            if (list_->item(i)->text() != text) list_->item(i)->setText(text);
        }
        list_->setCurrentRow(selected);
    }
    list_->setFixedHeight(std::min(size, 5) * std::max(20, list_->sizeHintForRow(0)) + 6);
    form_->set_places({place_ + QStringLiteral("/%1").arg(selected)});
}

void ListEditor::select(int row) {
    refresh();
    if (list_) list_->setCurrentRow(row);
}

void ListEditor::edit(
    const QString& name, int from, int to, const std::function<void(FieldRef&)>& change, int then_select) {
    const QString path = absolute();
    document_.edit_list(name, {path, from, to}, [&](Machine& m) {
        if (auto f = find_field(m, path.toStdString())) change(*f);
    });
    refresh();
    if (list_) list_->setCurrentRow(then_select);
    if (from < 0 && form_) form_->focus_first(); // a new one is filled in next
}

bool ListEditor::go_to(const QString& path) {
    const QString base = absolute() + QLatin1Char('/');
    if (!path.startsWith(base)) return false;
    refresh();
    if (!list_) return false;
    list_->setCurrentRow(path.mid(base.size()).section(QLatin1Char('/'), 0, 0).toInt());
    if (!form_->go_to(path)) list_->setFocus();
    return true;
}

} // namespace fulmox::app
