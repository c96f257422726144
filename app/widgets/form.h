// A form built from field descriptions.
#pragma once

#include "app/document.h"
#include "app/widgets/quantity_edit.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QToolButton>
#include <QWidget>
#include <map>
#include <set>
#include <vector>

class QMenu;
class QPushButton;
class QVBoxLayout;

namespace fulmox::app {

/// A line of words that ends in "…" where there is no room for all; the tooltip has the rest.
class Aside : public QLabel {
  public:
    using QLabel::QLabel;

  protected:
    void paintEvent(QPaintEvent* event) override;
};

/// Shows the fields below some places of the document in the order of their description, rare ones folded away.
/// The form rebuilds itself when the structure changes (another kind chosen) and otherwise only refreshes values.
class Form : public QWidget {
    Q_OBJECT

  public:
    /// `places` are JSON pointers relative to the selected axis, or absolute when they begin with "//". A place that
    /// names a group shows its fields. Lists inside are left to special widgets. Places that begin with "!" are left
    /// out of those before.
    Form(Document& document, QStringList places, int label_width = 132, QWidget* parent = nullptr);

    void set_places(const QStringList& places);
    void refresh();
    /// Puts the focus into the field with this absolute path; unfolds it. False if it is not here.
    bool go_to(const QString& path);
    /// The same for the first field that takes a value.
    bool focus_first();

  signals:
    void focused(const QString& path);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    struct Row {
        FieldRef::Type type;
        QString path;
        QWidget* whole = nullptr;
        QLabel* label = nullptr;
        QuantityEdit* edit = nullptr;
        QLabel* converted = nullptr;
        QToolButton* standing = nullptr;
        QLabel* problem = nullptr;
        QString across; ///< what is wrong with a good value beside other fields
        QComboBox* choice = nullptr;
        QCheckBox* flag = nullptr;
        QLineEdit* text = nullptr;
        QPlainTextEdit* lines = nullptr; ///< a text of many lines
    };
    /// Rarely needed fields of one section: their rows are made when somebody first unfolds them.
    struct Folded {
        QPushButton* more = nullptr;
        QWidget* content = nullptr;
        FieldRefs fields;
        bool built = false;
    };
    void rebuild(const FieldRefs& fields);
    void add_row(QVBoxLayout* box, const FieldRef& f);
    void add_folded(QVBoxLayout* box, const QString& section, FieldRefs rare);
    void unfold(const QString& section, bool on);
    FieldRefs own_fields(Machine& copy) const;
    QString absolute(const QString& place) const;
    void add_quantity(QVBoxLayout* box, const FieldRef& f);
    void add_choice(QVBoxLayout* box, const FieldRef& f);
    Row labelled_row(QVBoxLayout* box, const FieldRef& f, const QString& label, QWidget* field, bool wide);
    void add_flag(QVBoxLayout* box, const FieldRef& f);
    void add_text(QVBoxLayout* box, const FieldRef& f);
    void add_lines(QVBoxLayout* box, const FieldRef& f);
    void show_problem(Row& row);
    void ask_standing(QToolButton* at, const QString& path);
    static QString signature(const FieldRefs& fields);

    Document& document_;
    QStringList places_;
    QString signature_;
    int label_width_;
    std::vector<Row> rows_;
    std::map<QString, Folded> folded_;
    std::set<QString> unfolded_;
    QMenu* standing_menu_ = nullptr; ///< one for all rows, made when first asked for
    QString standing_path_;
    bool refreshing_ = false;
};

/// One line of help for the field in focus: what it is, typical range, source.
class HelpStrip : public QLabel {
    Q_OBJECT

  public:
    explicit HelpStrip(Document& document, QWidget* parent = nullptr);
    void show_field(const QString& path);
    /// What it says before any field has the focus.
    void greet();

  private:
    Document& document_;
};

} // namespace fulmox::app
