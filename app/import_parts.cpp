#include "app/import_parts.h"

#include "app/bricks/choice.h"
#include "app/part_shelf.h"
#include "app/regular_file.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/columns.h"
#include "core/quantity/format.h"

#include <QApplication>
#include <QCheckBox>
#include <QDate>
#include <QFile>
#include <QFileInfo>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPointer>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <fstream>

namespace fulmox::app {

namespace {

// A regular file only: a pipe that took its place meanwhile is not waited for.
std::ifstream opened(const QString& file) {
    return size_of_regular(file) ? std::ifstream(QFile::encodeName(file).constData(), std::ios::binary)
                                 : std::ifstream();
}

QString field_words(const PartField& f) { return qs(f.label); }

} // namespace

ImportParts::ImportParts(Document& document, QString file, QString name, const QString& kind, QWidget* parent)
    : QDialog(parent), document_(document), file_(std::move(file)), name_(std::move(name)) {
    setWindowTitle(tr("Import parts"));
    setObjectName(QStringLiteral("import-parts"));
    resize(760, 620);
    size_ = static_cast<double>(std::max<qint64>(1, QFileInfo(file_).size()));
    auto* box = new QVBoxLayout(this);
    box->setSpacing(8);
    auto* top = new QHBoxLayout;
    auto* what = new QLabel(tr("%1 holds").arg(name_));
    what->setTextFormat(Qt::PlainText);
    top->addWidget(what);
    kind_ = new Choice;
    kind_->setObjectName(QStringLiteral("import-kind"));
    kind_->setAccessibleName(tr("Kind of part"));
    for (const PartKind& k : part_kinds())
        kind_->addItem(QString::fromUtf8(k.lists).toLower(), QString::fromUtf8(k.key));
    top->addWidget(kind_);
    comma_ = new QCheckBox(tr("decimal comma"));
    comma_->setObjectName(QStringLiteral("import-comma"));
    top->addWidget(comma_);
    how_ = new QLabel;
    how_->setObjectName(QStringLiteral("second"));
    how_->setFont(type_face(12));
    how_->setTextFormat(Qt::PlainText);
    top->addWidget(how_, 1);
    box->addLayout(top);
    auto* scroll = new QScrollArea;
    scroll->setObjectName(QStringLiteral("import-columns"));
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    box->addWidget(scroll, 3);
    found_ = new QLabel;
    found_->setObjectName(QStringLiteral("import-found"));
    found_->setWordWrap(true);
    found_->setTextFormat(Qt::PlainText);
    box->addWidget(found_);
    problems_ = new QPlainTextEdit;
    problems_->setReadOnly(true);
    problems_->setTabChangesFocus(true);
    problems_->setAccessibleName(tr("What is wrong with the list, by line and column"));
    problems_->setObjectName(QStringLiteral("import-problems"));
    box->addWidget(problems_, 1);
    auto* buttons = new QHBoxLayout;
    progress_ = new QProgressBar;
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setAccessibleName(tr("How far it is read"));
    buttons->addWidget(progress_, 1);
    stop_ = new QPushButton(tr("Stop"));
    connect(stop_, &QPushButton::clicked, this, [this] {
        work_.drop();
        ticking_.stop();
        read_ = {};
        read_.cancelled = true;
        show_read();
    });
    buttons->addWidget(stop_);
    auto* cancel = new QPushButton(tr("Cancel"));
    connect(cancel, &QPushButton::clicked, this, &QDialog::reject);
    buttons->addWidget(cancel);
    project_ = new QPushButton(tr("Keep in this project"));
    project_->setObjectName(QStringLiteral("import-project"));
    connect(project_, &QPushButton::clicked, this, [this] { keep(true); });
    buttons->addWidget(project_);
    library_ = new QPushButton(tr("Keep in my library"));
    library_->setObjectName(QStringLiteral("primary"));
    library_->setDefault(true);
    connect(library_, &QPushButton::clicked, this, [this] { keep(false); });
    buttons->addWidget(library_);
    box->addLayout(buttons);
    ticking_.setInterval(80);
    connect(&ticking_, &QTimer::timeout, this, [this] { progress_->setValue(static_cast<int>(1000 * work_.done())); });
    later_.setSingleShot(true);
    later_.setInterval(250);
    connect(&later_, &QTimer::timeout, this, &ImportParts::read);
    look(kind);
    connect(kind_, &QComboBox::currentIndexChanged, this, [this] {
        table_.kind = kind_->currentData().toString().toStdString();
        if (table_.columns.empty()) {
            look(kind_->currentData().toString());
            return;
        }
        match_columns(table_);
        lay_out_columns();
        read();
    });
    connect(comma_, &QCheckBox::toggled, this, [this](bool on) {
        table_.decimal_comma = on;
        read();
    });
}

void ImportParts::look(const QString& kind) {
    std::ifstream in = opened(file_);
    table_ = look_at_part_table(in, kind.toStdString());
    const QSignalBlocker quiet(kind_), quiet_too(comma_);
    if (!table_.kind.empty()) kind_->setCurrentIndex(kind_->findData(qs(table_.kind)));
    comma_->setChecked(table_.decimal_comma);
    const QString separated = table_.separator == '\t'  ? tr("tabs")
                              : table_.separator == ';' ? tr("semicolons")
                              : table_.separator == '|' ? tr("bars")
                                                        : tr("commas");
    how_->setText(table_.heading_line > 0 ? tr("%1, separated by %2, headings in line %3")
                                                .arg(qs(table_.encoding), separated)
                                                .arg(table_.heading_line)
                                          : qs(table_.encoding));
    lay_out_columns();
    read();
}

void ImportParts::lay_out_columns() {
    auto* scroll = findChild<QScrollArea*>(QStringLiteral("import-columns"));
    columns_.clear();
    auto* inner = new QWidget;
    inner->setObjectName(QStringLiteral("clear"));
    auto* grid = new QGridLayout(inner);
    grid->setContentsMargins(2, 2, 8, 2);
    grid->setVerticalSpacing(4);
    const QStringList heads{tr("Column"), tr("First value"), tr("is taken for"), tr("in"), QString()};
    for (int c = 0; c < heads.size(); ++c) {
        auto* l = new QLabel(heads[c]);
        l->setObjectName(QStringLiteral("second"));
        l->setFont(type_face(12));
        grid->addWidget(l, 0, c);
    }
    const std::vector<PartField> fields =
        table_.kind.empty() ? std::vector<PartField>() : part_fields(part_kind(table_.kind));
    for (std::size_t c = 0; c < table_.columns.size(); ++c) {
        const PartColumn& column = table_.columns[c];
        const int row = static_cast<int>(c) + 1;
        const QString heading = qs(column.heading);
        auto* name = new QLabel(heading.isEmpty() ? tr("column %1").arg(c + 1) : heading);
        name->setTextFormat(Qt::PlainText);
        name->setMaximumWidth(220);
        name->setWordWrap(true);
        QString first;
        for (const auto& cells : table_.sample)
            if (c < cells.size() && first.isEmpty()) first = qs(std::string(trim(cells[c])));
        auto* value = new QLabel(first.left(24));
        value->setTextFormat(Qt::PlainText);
        value->setObjectName(QStringLiteral("second"));
        auto* field = new Choice;
        field->setAccessibleName(tr("Column %1, %2, is taken for").arg(c + 1).arg(heading));
        field->setObjectName(QStringLiteral("import-field-%1").arg(c));
        field->addItem(tr("ignored"), QString());
        for (const PartField& f : fields) field->addItem(field_words(f), qs(f.path));
        field->setCurrentIndex(std::max(0, field->findData(qs(column.field))));
        auto* unit = new QLineEdit(qs(column.unit));
        unit->setAccessibleName(tr("Unit of column %1, %2").arg(c + 1).arg(heading));
        unit->setObjectName(QStringLiteral("import-unit-%1").arg(c));
        unit->setFixedWidth(90);
        auto* says = new QLabel;
        says->setFont(type_face(12));
        says->setWordWrap(true);
        says->setTextFormat(Qt::PlainText);
        grid->addWidget(name, row, 0);
        grid->addWidget(value, row, 1);
        grid->addWidget(field, row, 2);
        grid->addWidget(unit, row, 3);
        grid->addWidget(says, row, 4);
        columns_.push_back({field, unit, says});
        connect(field, &QComboBox::currentIndexChanged, this, [this] {
            take_corrections();
            later_.start();
        });
        connect(unit, &QLineEdit::textChanged, this, [this] {
            take_corrections();
            later_.start();
        });
    }
    grid->setColumnStretch(4, 1);
    grid->setRowStretch(static_cast<int>(table_.columns.size()) + 1, 1);
    scroll->setWidget(inner);
    take_corrections();
}

// What the user says of each column goes into the table; what does not agree is said beside it.
void ImportParts::take_corrections() {
    if (table_.kind.empty()) return;
    const std::vector<PartField> fields = part_fields(part_kind(table_.kind));
    for (std::size_t c = 0; c < columns_.size(); ++c) {
        PartColumn& column = table_.columns[c];
        const std::string chosen = columns_[c].field->currentData().toString().toStdString();
        const auto f = std::find_if(fields.begin(), fields.end(), [&](const PartField& x) { return x.path == chosen; });
        const bool guessed = !column.sure && chosen == column.field;
        column.field = chosen;
        QString says;
        if (f == fields.end()) {
            columns_[c].unit->setEnabled(false);
        } else {
            column.label = f->label;
            const bool quantity = f->kind != Kind::illegal;
            columns_[c].unit->setEnabled(quantity);
            const std::string text = columns_[c].unit->text().trimmed().toStdString();
            const Unit* u = quantity && !text.empty() ? find_unit(text, f->kind) : nullptr;
            if (u && u->kind != f->kind) u = nullptr;
            if (quantity && !text.empty() && !u)
                says = tr("allowed are %1").arg(qs(some_units(f->kind)));
            else if (quantity && text.empty() && f->kind != Kind::number)
                says = tr("no unit: each cell must have its own");
            column.unit = u ? std::string(u->symbol) : std::string();
            column.wrong.clear();
            for (std::size_t other = 0; other < c; ++other)
                if (table_.columns[other].field == chosen) {
                    says = tr("column %1 is taken for it already").arg(other + 1);
                    column.field.clear();
                }
            if (says.isEmpty() && guessed) says = tr("guessed");
        }
        columns_[c].says->setText(says);
    }
}

void ImportParts::read() {
    later_.stop();
    read_ = {};
    ticking_.start();
    const QString date = QDate::currentDate().toString(Qt::ISODate);
    work_.run(
        this,
        [file = file_, name = name_.toStdString(), table = table_, date = date.toStdString(), size = size_](
            const StopToken& go_on) {
            std::ifstream in = opened(file);
            return read_part_table(in, table, name, date, [&](std::size_t bytes) {
                go_on.done(static_cast<double>(bytes) / size);
                return go_on();
            });
        },
        [this](PartTableRead r) {
            read_ = std::move(r);
            ticking_.stop();
            show_read();
        });
    show_read();
}

void ImportParts::show_read() {
    const bool running = work_.running();
    progress_->setVisible(running);
    stop_->setVisible(running);
    std::size_t parts = 0;
    for (const PartsCount& n : count_parts(read_.parts)) parts += n.parts;
    for (QPushButton* b : {project_, library_}) b->setEnabled(!running && parts > 0);
    if (running) {
        found_->setText(tr("reading…"));
        problems_->clear();
        return;
    }
    if (read_.cancelled) {
        found_->setText(tr("stopped; a change of any column reads it again"));
        return;
    }
    QString words = tr("%1 of %2 rows can be kept").arg(parts).arg(read_.rows);
    for (const PartsCount& n : count_parts(read_.parts))
        if (n.without_price + n.without_mass > 0)
            words += tr("; %1 without a price, %2 without a mass").arg(n.without_price).arg(n.without_mass);
    found_->setText(words);
    QStringList lines;
    for (const Problem& p : read_.problems) lines << qs(to_text(p));
    if (read_.more_problems > 0) lines << tr("and %1 more of these").arg(read_.more_problems);
    problems_->setPlainText(lines.isEmpty() ? tr("Every row was understood.") : lines.join(QLatin1Char('\n')));
}

void ImportParts::keep(bool in_project) {
    if (in_project) {
        const PartKind& kind = part_kind(table_.kind);
        const std::size_t count = kind.own(read_.parts).size(),
                          own = kind.own(const_cast<Machine&>(document_.machine())).size();
        if (count + own > 1000) {
            found_->setText(tr("A project keeps at most 1000 %1 of its own, this would be %2; the library keeps more.")
                                .arg(QString::fromUtf8(kind.lists).toLower())
                                .arg(count + own));
            return;
        }
        document_.edit(tr("import %1").arg(name_), [&](Machine& m) { keep_all(kind, m, read_.parts); });
    } else {
        for (QPushButton* b : {project_, library_}) b->setEnabled(false);
        found_->setText(tr("writing…"));
        part_shelf().keep_beside(QFileInfo(name_).completeBaseName(), std::make_shared<PartLists>(read_.parts),
            [self = QPointer<ImportParts>(this)](const QString& wrong) {
                if (!self) return;
                if (wrong.isEmpty()) return self->accept();
                for (QPushButton* b : {self->project_, self->library_}) b->setEnabled(true);
                self->found_->setText(wrong);
            });
        return;
    }
    accept();
}

namespace {

// A catalogue of JSON needs no columns to be matched: it is read and kept beside the window.
class ImportCatalogue : public QDialog {
  public:
    ImportCatalogue(Document& document, const QString& file, QWidget* parent) : QDialog(parent), document_(document) {
        setWindowTitle(ImportParts::tr("Import parts"));
        setObjectName(QStringLiteral("import-catalogue"));
        const QString name = QFileInfo(file).fileName();
        auto* box = new QVBoxLayout(this);
        auto* says = new QLabel(ImportParts::tr("%1 is being read and kept in the library…").arg(name));
        says->setTextFormat(Qt::PlainText);
        says->setWordWrap(true);
        box->addWidget(says);
        auto* progress = new QProgressBar;
        progress->setRange(0, 0);
        progress->setTextVisible(false);
        progress->setAccessibleName(ImportParts::tr("The file is being read"));
        box->addWidget(progress);
        auto* stop = new QPushButton(ImportParts::tr("Stop"));
        stop->setObjectName(QStringLiteral("import-stop"));
        connect(stop, &QPushButton::clicked, this, &QDialog::reject);
        box->addWidget(stop, 0, Qt::AlignRight);
        resize(420, sizeHint().height());
        stop_ = stop;
        work_->run(
            qApp,
            [file, name](const StopToken& go_on) {
                Made made;
                const auto bytes = read_regular(file);
                if (!bytes) return Made{nullptr, bytes.error()};
                if (!go_on()) return made;
                auto read =
                    read_any_parts(std::string_view(bytes->constData(), static_cast<std::size_t>(bytes->size())),
                        name.toStdString(), "");
                if (!read) return Made{nullptr, QStringLiteral("%1: %2").arg(name, qs(to_text(read.error())))};
                for (const Problem& p : read->problems)
                    if (p.severity == Severity::error)
                        return Made{nullptr, QStringLiteral("%1: %2").arg(name, qs(to_text(p)))};
                made.parts = std::make_shared<PartLists>(std::move(read->parts));
                return made;
            },
            [this, base = QFileInfo(file).completeBaseName()](const Made& made) {
                if (!made.parts)
                    return end(made.wrong.isEmpty() ? ImportParts::tr("it could not be read") : made.wrong);
                stop_->setEnabled(false); // a file is written whole, or not at all
                part_shelf().keep_beside(
                    base, made.parts, [self = QPointer<ImportCatalogue>(this)](const QString& wrong) {
                        if (self) self->end(wrong);
                    });
            });
        ended_at_once_ = ended_;
        if (!ended_at_once_) open();
    }
    ~ImportCatalogue() override { let_end(std::move(work_)); } // stopped: the window does not wait for it
    bool ended_at_once() const { return ended_at_once_; }

  private:
    struct Made {
        std::shared_ptr<PartLists> parts;
        QString wrong;
    };
    void end(const QString& wrong) {
        ended_ = true;
        if (!wrong.isEmpty()) emit document_.refused(wrong);
        accept();
    }
    Document& document_;
    QPushButton* stop_ = nullptr;
    bool ended_ = false, ended_at_once_ = false;
    std::unique_ptr<Background<Made>> work_ = std::make_unique<Background<Made>>();
};

} // namespace

void import_parts(Document& document, const QString& file, const QString& kind, QWidget* parent) {
    // the beginning tells the form
    const auto head = head_of_regular(file, 4096);
    if (!head) {
        emit document.refused(head.error());
        return;
    }
    const QByteArray begins = head->trimmed();
    if (begins.startsWith('{') || begins.startsWith("\xEF\xBB\xBF{")) {
        auto* dialog = new ImportCatalogue(document, file, parent);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        if (dialog->ended_at_once()) delete dialog;
        return;
    }
    auto* dialog = new ImportParts(document, file, QFileInfo(file).fileName(), kind, parent);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

} // namespace fulmox::app
