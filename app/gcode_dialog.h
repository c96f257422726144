// Import of a G-code program: which letter moves which axis, within what limits.
#pragma once

#include "app/document.h"
#include "core/motion/gcode.h"

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <array>

namespace fulmox::app {

class GcodeDialog : public QDialog {
    Q_OBJECT

  public:
    GcodeDialog(Document& document, GcodeProgram program, QString name, QWidget* parent = nullptr);

  private:
    struct Row {
        QComboBox* axis = nullptr;
        QLineEdit* speed = nullptr;
        QLineEdit* acceleration = nullptr;
    };
    void import();

    Document& document_;
    GcodeProgram program_;
    QString name_;
    std::array<Row, gcode_axes> rows_;
    QLineEdit* deviation_;
    QLabel* says_;
};

/// Asks for a file, reads it with progress and cancel, opens the dialog. The message is empty where all went well or
/// the user stepped back.
QString import_gcode(Document& document, const QString& file, QWidget* parent);

} // namespace fulmox::app
