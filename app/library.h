// The user's own motors, kept over all projects in one catalogue file of the user's data folder.
#pragma once

#include "app/background.h"
#include "core/model/motor.h"

#include <QDateTime>
#include <QObject>
#include <QString>
#include <vector>

namespace fulmox::app {

class MotorLibrary : public QObject {
    Q_OBJECT

  public:
    explicit MotorLibrary(QObject* parent = nullptr);

    const std::vector<Motor>& motors() const { return motors_; }
    /// Adds a copy under a name that is free. Empty, or why it could not: a file that cannot be read is never written
    /// over.
    QString add(Motor motor);
    QString remove(const std::string& name);
    /// Looks at the file again where it has changed.
    void reload();
    QString file() const;
    /// What is wrong with the file; empty: nothing.
    QString problem() const { return problem_; }

  signals:
    void changed();

  private:
    std::vector<Motor> motors_;
    QString problem_;
    QDateTime seen_;
    bool looked_ = false;

    struct Read {
        std::vector<Motor> motors;
        QString problem;
    };
    Background<Read> reading_;

    QString write(std::vector<Motor> motors);
    static Read read(const QString& file);
};

/// The one of this program.
MotorLibrary& motor_library();

} // namespace fulmox::app
