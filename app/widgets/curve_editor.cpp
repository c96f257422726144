#include "app/widgets/curve_editor.h"

#include "app/theme.h"

#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QRegularExpression>
#include <QToolButton>
#include <QVBoxLayout>

namespace fulmox::app {

namespace {
constexpr int edit_width = 82, remove_width = 22;
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
        edit_list(tr("new point"), -1, at, [](FieldRef& f) { f.list.insert(f.list.size()); });
    });
    add->setToolTip(tr("Or paste two columns, speed and torque, from a spreadsheet into a point"));
    box->addWidget(add, 0, Qt::AlignLeft);
    said_ = new QLabel;
    said_->setObjectName(QStringLiteral("problem"));
    said_->setFont(type_face(12));
    said_->setTextFormat(Qt::PlainText);
    said_->setWordWrap(true);
    said_->setFixedWidth(2 * edit_width + remove_width + 6);
    said_->hide();
    box->addWidget(said_);
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

void CurveEditor::paste(int row, const QString& text) {
    struct Point {
        QString speed, torque;
    };
    std::vector<Point> points;
    QStringList wrong;
    QString units[2]; // of a header row
    const QStringList lines = text.split(QLatin1Char('\n'));
    for (int n = 0; n < lines.size(); ++n) {
        const QString line = lines[n].trimmed();
        if (line.isEmpty()) continue;
        const QChar separator = line.contains(QLatin1Char('\t'))  ? QLatin1Char('\t')
                                : line.contains(QLatin1Char(';')) ? QLatin1Char(';')
                                                                  : QLatin1Char(',');
        QStringList cells = line.split(separator);
        for (QString& c : cells) c = c.trimmed();
        const bool heading =
            points.empty() && wrong.isEmpty() && !cells[0].contains(QRegularExpression(QStringLiteral("\\d")));
        if (cells.size() != 2) {
            wrong << tr("line %1 has %2 columns, a curve has two: speed and torque").arg(n + 1).arg(cells.size());
            continue;
        }
        if (heading) {
            static const QRegularExpression in_brackets(QStringLiteral("[\\[(]([^\\])]+)[\\])]"));
            for (int k = 0; k < 2; ++k) units[k] = in_brackets.match(cells[k]).captured(1);
            continue;
        }
        bool good = true;
        for (int k = 0; k < 2; ++k) {
            QString& c = cells[k];
            if (separator != QLatin1Char(',')) // then a comma is a decimal one
                c.replace(QRegularExpression(QStringLiteral("^([+-]?\\d+),(\\d+)")), QStringLiteral("\\1.\\2"));
            const Kind kind = k == 0 ? Kind::angular_speed : Kind::torque;
            const Unit* unit =
                units[k].isEmpty() ? find_unit(k == 0 ? "rpm" : "N·m", kind) : find_unit(units[k].toStdString(), kind);
            if (!unit || unit->kind != kind) {
                wrong << tr("line %1: \"%2\" is no unit of %3")
                             .arg(n + 1)
                             .arg(units[k], k == 0 ? tr("speed") : tr("torque"));
                good = false;
                break;
            }
            const auto read = read_quantity(c.toStdString(), kind, *unit);
            if (!read) {
                wrong << tr("line %1, %2: \"%3\": %4")
                             .arg(n + 1)
                             .arg(k == 0 ? tr("speed") : tr("torque"), c, QString::fromStdString(read.error().message));
                good = false;
                break;
            }
            c = QString::fromStdString(with_unit(c.toStdString(), *read));
        }
        if (good) points.push_back({cells[0], cells[1]});
    }
    said_->setText(wrong.join(QLatin1Char('\n')));
    said_->setVisible(!wrong.isEmpty());
    if (points.empty()) return;
    const std::string list = (document_.axis_path() + place_).toStdString();
    document_.edit(tr("pasted curve"), [&](Machine& m) {
        for (std::size_t i = 0; i < points.size(); ++i) {
            const std::size_t at = static_cast<std::size_t>(row) + i;
            if (auto f = find_field(m, list); f && at >= f->list.size()) f->list.insert(f->list.size());
            const std::string base = list + "/" + std::to_string(at) + "/";
            for (const auto& [key, value] :
                {std::pair<const char*, const QString&>("speed", points[i].speed), {"torque", points[i].torque}})
                if (auto f = find_field(m, base + key)) assign(*f, value.toStdString());
        }
    });
}

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
