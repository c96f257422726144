#include "app/forms/curve_editor.h"
#include "app/words.h"

#include "app/theme.h"
#include "core/files/curve_text.h"

#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace fulmox::app {

namespace {
constexpr int value_width = 82, remove_width = 22;
}

CurveEditor::CurveEditor(Document& document, QString heading, QString place, QWidget* parent)
    : LiveWidget(document, parent), place_(std::move(place)) {
    setMinimumWidth(2 * value_width + remove_width + 6); // nothing moves aside when the first point comes
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(3);
    title_ = new QLabel(heading);
    title_->setFont(type_face(13, Weight::strong));
    box->addWidget(title_);
    grid_ = new QGridLayout;
    grid_->setSpacing(3);
    box->addLayout(grid_);
    auto* add = new QPushButton(tr("+ point"));
    add->setObjectName(QStringLiteral("link"));
    connect(add, &QPushButton::clicked, this, [this] {
        const int at = static_cast<int>(edits_.size()) / 2;
        edit_list(tr("new point"), -1, at, [](FieldRef& f) { f.list.insert(f.list.size()); });
    });
    add->setToolTip(tr("Or paste two columns, speed and torque, or three, speed, continuous and peak, from a "
                       "spreadsheet into a point"));
    box->addWidget(add, 0, Qt::AlignLeft);
    said_ = new QLabel;
    said_->setObjectName(QStringLiteral("problem"));
    said_->setFont(type_face(12));
    said_->setTextFormat(Qt::PlainText);
    said_->setWordWrap(true);
    said_->setFixedWidth(2 * value_width + remove_width + 6);
    said_->hide();
    box->addWidget(said_);
    box->addStretch(1);
    refresh();
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
            e->setFixedWidth(value_width);
            connect(e, &QuantityEdit::focused, this, &CurveEditor::focused);
            e->want_tables();
            connect(e, &QuantityEdit::table_pasted, this,
                [this, i](const QString& text) { paste(static_cast<int>(i), text); });
            connect(e, &QuantityEdit::problem_changed, e, [e] { e->setToolTip(plain_tip(e->problem())); });
            grid_->addWidget(e, static_cast<int>(i), column++);
            edits_.push_back(e);
        }
        auto* remove = new QToolButton;
        remove->setText(QStringLiteral("×"));
        remove->setFixedWidth(remove_width);
        remove->setToolTip(tr("Remove this point"));
        remove->setAccessibleName(tr("Remove point %1").arg(i + 1));
        connect(remove, &QToolButton::clicked, this, [this, i] {
            edit_list(tr("remove point"), static_cast<int>(i), -1, [i](FieldRef& f) { f.list.erase(i); });
        });
        grid_->addWidget(remove, static_cast<int>(i), column);
    }
}

QString take_curves(Document& document, const QString& place, int row, const QString& text, bool whole) {
    const CurveText read = read_curve_text(text.toStdString());
    QStringList wrong;
    for (const std::string& w : read.wrong) wrong << qs(w);
    if (read.rows.empty()) {
        if (wrong.isEmpty()) wrong << QObject::tr("there is no row of numbers in it");
        return wrong.join(QLatin1Char('\n'));
    }
    const QString continuous = QStringLiteral("/motor/continuous"), peak = QStringLiteral("/motor/peak");
    QString first = place, second = place == peak ? continuous : peak;
    if (read.second == CurveText::Second::peak) first = continuous, second = peak;
    if (read.second == CurveText::Second::continuous) first = peak, second = continuous;
    // a file whose heading names the curve means that one; a paste means the points it is pasted into
    if (whole && read.first_is == "peak") first = peak;
    if (whole && read.first_is == "continuous") first = continuous;
    document.edit(QObject::tr("pasted curve"), [&](Machine& m) {
        const auto put = [&](const QString& list, auto torque) {
            const std::string path = (document.axis_path() + list).toStdString();
            if (whole)
                if (auto f = find_field(m, path))
                    while (f->list.size() > 0) f->list.erase(f->list.size() - 1);
            for (std::size_t i = 0; i < read.rows.size(); ++i) {
                const std::size_t at = static_cast<std::size_t>(row) + i;
                if (auto f = find_field(m, path); f && at >= f->list.size()) f->list.insert(f->list.size());
                const std::string base = path + "/" + std::to_string(at) + "/";
                if (auto f = find_field(m, base + "speed")) assign(*f, read.rows[i].speed);
                if (auto f = find_field(m, base + "torque")) assign(*f, torque(read.rows[i]));
            }
        };
        put(first, [](const CurveText::Row& r) { return r.first; });
        if (read.second != CurveText::Second::none) put(second, [](const CurveText::Row& r) { return r.second; });
    });
    return wrong.join(QLatin1Char('\n'));
}

void CurveEditor::paste(int row, const QString& text) {
    const QString wrong = take_curves(document_, place_, row, text, false);
    said_->setText(wrong);
    said_->setVisible(!wrong.isEmpty());
}

void CurveEditor::set_title(const QString& title) { title_->setText(title); }

void CurveEditor::refresh() {
    if (!document_.has_axis()) return;
    Machine copy = document_.machine();
    const FieldRefs fields =
        walk(copy.axes[static_cast<std::size_t>(document_.axis_index())], document_.axis_path().toStdString());
    const std::string at = (document_.axis_path() + place_).toStdString();
    std::size_t count = 0;
    for (const FieldRef& f : fields)
        if (f.path == at) count = f.list.size();
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
