// Import of a parts list: what kind of part, which column is what, and where the parts are kept.
#pragma once

#include "app/background.h"
#include "app/document.h"
#include "core/files/part_table.h"

#include <QDialog>
#include <QTimer>
#include <vector>

class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QProgressBar;
class QPushButton;

namespace fulmox::app {

class ImportParts : public QDialog {
    Q_OBJECT

  public:
    /// `file` stays as it is; `name` is what provenance calls it. `kind`: key, where the user said it; empty: guessed.
    ImportParts(Document& document, QString file, QString name, const QString& kind = {}, QWidget* parent = nullptr);
    const PartTable& table() const { return table_; }
    bool reading() const { return work_.running(); }

  private:
    struct Column {
        QComboBox* field;
        QLineEdit* unit;
        QLabel* says;
    };
    void look(const QString& kind);
    void lay_out_columns();
    void take_corrections();
    void read();
    void show_read();
    void keep(bool in_project);

    Document& document_;
    QString file_, name_;
    PartTable table_;
    PartTableRead read_;
    std::vector<Column> columns_;
    QComboBox* kind_;
    QCheckBox* comma_;
    QWidget* grid_ = nullptr;
    QLabel *how_, *found_;
    QPlainTextEdit* problems_;
    QProgressBar* progress_;
    QPushButton *stop_, *project_, *library_;
    QTimer ticking_{this}, later_{this};
    double size_ = 1;
    Background<PartTableRead> work_;
};

/// Opens the dialog for a file; a catalogue of JSON is kept in the library as it is. What is wrong the document says,
/// by `refused`, perhaps later.
void import_parts(Document& document, const QString& file, const QString& kind, QWidget* parent);

} // namespace fulmox::app
