// The assessments of a machine's axes, each made when it is first asked for.
#pragma once

#include "app/background.h"
#include "core/match/assess.h"

#include <QObject>
#include <memory>
#include <optional>
#include <vector>

namespace fulmox::app {

/// A short assessment is there at once; one that takes long is made on a thread of its own. Until it is there the axis
/// is pending and nothing is known of it, then `arrived` follows. Where the machine changes meanwhile the latest state
/// wins.
class AssessmentCache : public QObject {
    Q_OBJECT

  public:
    using Snapshot = std::shared_ptr<const Machine>;
    using QObject::QObject;

    /// The machine as it is from now on. Axes that the change does not reach stay assessed, the others are stale.
    void set(Snapshot machine);
    /// What another one has made of the same machine is taken over.
    void set_as(const AssessmentCache& other);
    void clear();

    enum class State {
        stale,   ///< the axis changed, and nobody has asked since
        pending, ///< it is being made
        present, ///< of the machine as it is
    };
    State state(std::size_t axis) const;
    /// Of the machine as it is; while it is pending without figures and limits, and `Assessment::pending` says so.
    const Assessment& of(std::size_t axis);

  signals:
    void arrived();

  private:
    struct Slot {
        std::optional<Assessment> is;
        double took = 0; ///< ms, the last time
        std::unique_ptr<Background<std::shared_ptr<Assessment>>> work;
    };
    void make(std::size_t axis);

    Snapshot machine_;
    std::vector<Slot> slots_;
    std::vector<std::vector<bool>> too_long_; ///< cycles of each axis that are not calculated beside the others
    bool asked_ = false;                      ///< an assessment that comes now is waited for
};

} // namespace fulmox::app
