// A form built from field descriptions.
#pragma once

#include "app/forms/quantity_edit.h"
#include "app/live.h"

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
/// It is changed by difference: a field that stays keeps its widget, with focus, selection and text, whatever comes and
/// goes around it.
class Form : public LiveWidget {
    Q_OBJECT

  public:
    /// `places` are JSON pointers relative to the selected axis, or absolute when they begin with "//". A place that
    /// names a group shows its fields. Lists inside are left to special widgets. Places that begin with "!" are left
    /// out of those before.
    Form(Document& document, QStringList places, int label_width = 132, QWidget* parent = nullptr);

    void set_places(const QStringList& places);
    void refresh() override;
    /// Puts the focus into the field with this absolute path; unfolds it. False if it is not here.
    bool go_to(const QString& path);
    /// The same for the first field that takes a value.
    bool focus_first();

  signals:
    void focused(const QString& path);

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
    /// One under the other: a heading, the row of a field, or what is folded away of a section.
    struct Entry {
        QString key;
        QString heading;
        const FieldRef* field = nullptr;
        FieldRefs folded;
    };
    using Widgets = std::map<QString, QWidget*>; ///< by the key of their entry
    /// Rarely needed fields of one section: their rows are made when somebody first unfolds them.
    struct Folded {
        QPushButton* more = nullptr;
        QWidget* content = nullptr;
        FieldRefs fields;
        Widgets rows;
        bool built = false;
    };
    std::vector<Entry> entries_of(const FieldRefs& fields) const;
    static Entry entry_of(const FieldRef& f);
    /// Makes what is new, puts all in order and takes away what is not among them any more.
    void arrange(QVBoxLayout* box, Widgets& there, const std::vector<Entry>& entries);
    QWidget* make(const Entry& e);
    void describe(const Entry& e, QWidget* made);
    void take_away(QWidget* gone);
    void fill_folded(Folded& folded);
    void put_rows_in_order();
    QWidget* add_row(const FieldRef& f);
    QWidget* add_folded(const QString& section);
    void unfold(const QString& section, bool on);
    FieldRefs own_fields(Machine& copy, const FieldRefs& of_axis) const;
    QString absolute(const QString& place) const;
    QWidget* add_quantity(const FieldRef& f);
    QWidget* add_choice(const FieldRef& f);
    Row labelled_row(const FieldRef& f, QWidget* field, bool wide);
    QWidget* add_flag(const FieldRef& f);
    QWidget* add_text(const FieldRef& f);
    QWidget* add_lines(const FieldRef& f);
    void show_problem(Row& row);
    void ask_standing(QToolButton* at, const QString& path);
    static QWidget* field_of(const Row& row);
    static QString signature(const FieldRefs& fields);

    QStringList places_;
    QString signature_;
    int label_width_;
    std::vector<Row> rows_; ///< from above to below
    Widgets widgets_;
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
