// The rows of a form: a field with its label, second unit, source and error.
#include "app/forms/form.h"

#include "app/bricks/choice.h"
#include "app/theme.h"
#include "app/words.h"

#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>

namespace fulmox::app {

namespace {

constexpr int edit_width = 112;

} // namespace

void Form::describe(const Entry& e, QWidget* made) {
    if (!e.folded.empty()) {
        Folded& f = folded_.at(e.key.mid(5));
        f.fields = e.folded;
        if (f.built) fill_folded(f);
        return;
    }
    if (!e.field) {
        static_cast<QLabel*>(made)->setText(e.heading);
        return;
    }
    const FieldRef& f = *e.field;
    const auto row = std::find_if(rows_.begin(), rows_.end(), [&](const Row& r) { return r.whole == made; });
    if (row == rows_.end()) return;
    const bool kinds = f.type == FieldRef::Type::variant;
    const QString label = kinds ? tr("Kind") : qs(f.label());
    if (row->label) row->label->setText(label);
    field_of(*row)->setAccessibleName(label);
    if (f.type == FieldRef::Type::quantity) {
        row->label->setToolTip(QString::fromUtf8(f.quantity_spec.help));
        row->standing->setAccessibleName(tr("InputSource of %1").arg(label));
    } else if (row->choice) {
        QStringList options, shown;
        const auto take = [&](const auto& all) {
            for (const Option& o : all) options << QString::fromUtf8(o.label);
        };
        if (kinds)
            take(f.variant.kinds());
        else
            take(f.choice_spec.options);
        for (int i = 0; i < row->choice->count(); ++i) shown << row->choice->itemText(i);
        if (shown != options) {
            const QSignalBlocker quiet(row->choice);
            row->choice->clear();
            row->choice->addItems(options);
        }
        if (!kinds) row->choice->setToolTip(QString::fromUtf8(f.choice_spec.help));
    } else if (row->flag) {
        row->flag->setText(label);
        row->flag->setToolTip(QString::fromUtf8(f.flag_spec.help));
    } else {
        field_of(*row)->setToolTip(QString::fromUtf8(f.text_spec.help));
    }
}

QWidget* Form::field_of(const Row& row) {
    if (row.edit) return row.edit;
    if (row.choice) return row.choice;
    if (row.flag) return row.flag;
    if (row.lines) return row.lines;
    return row.text;
}

QWidget* Form::add_row(const FieldRef& f) {
    switch (f.type) {
    case FieldRef::Type::quantity:
        return add_quantity(f);
    case FieldRef::Type::variant:
    case FieldRef::Type::choice:
        return add_choice(f);
    case FieldRef::Type::flag:
        return add_flag(f);
    case FieldRef::Type::text:
        return f.text_spec.many_lines ? add_lines(f) : add_text(f);
    default:
        return nullptr;
    }
}

QWidget* Form::add_quantity(const FieldRef& f) {
    Row row;
    row.type = f.type;
    row.path = qs(f.path);
    row.whole = new QWidget;
    auto* column = new QVBoxLayout(row.whole);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    auto* line = new QHBoxLayout;
    line->setSpacing(6);
    row.label = new QLabel;
    row.label->setFixedWidth(label_width_);
    row.edit = new QuantityEdit(document_, row.path);
    row.edit->setFixedWidth(edit_width);
    row.edit->setObjectName(row.path);
    row.label->setBuddy(row.edit);
    row.converted = new Aside;
    row.converted->setObjectName(QStringLiteral("second"));
    row.converted->setFont(type_face(12));
    row.converted->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    row.standing = new QToolButton;
    row.standing->setFont(type_face(11));
    row.standing->setFixedWidth(60);
    row.standing->setFocusPolicy(Qt::ClickFocus);
    connect(row.standing, &QToolButton::clicked, this,
        [this, at = row.standing, path = row.path] { ask_standing(at, path); });
    line->addWidget(row.label);
    line->addWidget(row.edit);
    line->addWidget(row.converted, 1);
    line->addWidget(row.standing);
    column->addLayout(line);
    connect(row.edit, &QuantityEdit::problem_changed, this, [this, edit = row.edit] {
        if (!edit->wrong())
            refresh();
        else
            for (Row& r : rows_)
                if (r.edit == edit) show_problem(r);
    });
    connect(row.edit, &QuantityEdit::focused, this, &Form::focused);
    rows_.push_back(row);
    return row.whole;
}

QWidget* Form::add_choice(const FieldRef& f) {
    auto* choice = new Choice;
    Row row = labelled_row(f, choice, false);
    row.choice = choice;
    connect(choice, &QComboBox::activated, this, [this, path = row.path](int i) { document_.set_choice(path, i); });
    rows_.push_back(row);
    return row.whole;
}

Form::Row Form::labelled_row(const FieldRef& f, QWidget* field, bool wide) {
    Row row;
    row.type = f.type;
    row.path = qs(f.path);
    row.whole = new QWidget;
    auto* line = new QHBoxLayout(row.whole);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(6);
    row.label = new QLabel;
    row.label->setFixedWidth(label_width_);
    row.label->setBuddy(field);
    field->setObjectName(row.path);
    line->addWidget(row.label);
    line->addWidget(field, wide ? 1 : 0);
    if (!wide) line->addStretch(1);
    return row;
}

QWidget* Form::add_flag(const FieldRef& f) {
    Row row;
    row.type = f.type;
    row.path = qs(f.path);
    row.flag = new QCheckBox;
    row.flag->setObjectName(row.path);
    row.whole = row.flag;
    connect(row.flag, &QCheckBox::toggled, this, [this, path = row.path](bool on) { document_.set_flag(path, on); });
    rows_.push_back(row);
    return row.whole;
}

namespace {

// Tells when it is left, as a line does.
class Lines : public QPlainTextEdit {
  public:
    explicit Lines(std::function<void()> left) : left_(std::move(left)) { setTabChangesFocus(true); }

  protected:
    void focusOutEvent(QFocusEvent* event) override {
        QPlainTextEdit::focusOutEvent(event);
        left_();
    }

  private:
    std::function<void()> left_;
};

} // namespace

QWidget* Form::add_lines(const FieldRef& f) {
    auto* lines = new Lines([this] { document_.end_typing(); });
    Row row = labelled_row(f, lines, true);
    row.lines = lines;
    lines->setFixedHeight(5 * lines->fontMetrics().lineSpacing() + 12);
    row.label->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    connect(lines, &QPlainTextEdit::textChanged, this,
        [this, lines, path = row.path] { document_.set_text(path, lines->toPlainText()); });
    rows_.push_back(row);
    return row.whole;
}

QWidget* Form::add_text(const FieldRef& f) {
    auto* text = new QLineEdit;
    Row row = labelled_row(f, text, true);
    row.text = text;
    connect(
        text, &QLineEdit::textEdited, this, [this, path = row.path](const QString& t) { document_.set_text(path, t); });
    connect(text, &QLineEdit::editingFinished, this, [this] { document_.end_typing(); });
    rows_.push_back(row);
    return row.whole;
}

} // namespace fulmox::app
