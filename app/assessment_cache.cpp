#include "app/assessment_cache.h"

#include "core/match/bounds.h"

#include <QElapsedTimer>
#include <utility>

namespace fulmox::app {

void AssessmentCache::set(Snapshot machine) {
    const Snapshot before = std::exchange(machine_, std::move(machine));
    const bool shared_changed =
        before && (before->site != machine_->site || before->operation != machine_->operation ||
                      before->policies != machine_->policies || before->materials != machine_->materials ||
                      before->unit_system != machine_->unit_system);
    const auto same = [&](std::size_t i) { // shared entries need no look
        const Axis &was = before->axes[i], &now = machine_->axes[i];
        return &was == &now || was == now;
    };
    slots_.resize(machine_->axes.size());
    // how much of one axis is calculated depends on how long the others are
    const auto beyond_before = std::exchange(too_long_, too_long(*machine_));
    const auto bound_same = [&](std::size_t i) { return i < beyond_before.size() && beyond_before[i] == too_long_[i]; };
    for (std::size_t i = 0; i < slots_.size(); ++i)
        if (!before || shared_changed || i >= before->axes.size() || !same(i) || !bound_same(i)) {
            slots_[i].is.reset();
            if (slots_[i].work) slots_[i].work->drop();
        }
}

void AssessmentCache::set_as(const AssessmentCache& other) {
    clear();
    set(other.machine_);
    for (std::size_t i = 0; i < slots_.size(); ++i)
        if (other.state(i) == State::present) {
            slots_[i].is = other.slots_[i].is;
            slots_[i].took = other.slots_[i].took;
        }
}

void AssessmentCache::clear() {
    slots_.clear();
    too_long_.clear();
    machine_.reset();
}

AssessmentCache::State AssessmentCache::state(std::size_t axis) const {
    const auto& is = slots_.at(axis).is;
    return !is ? State::stale : is->pending ? State::pending : State::present;
}

const Assessment& AssessmentCache::of(std::size_t axis) {
    if (state(axis) == State::stale) make(axis);
    return *slots_[axis].is;
}

void AssessmentCache::make(std::size_t axis) {
    // what is short is there at once; what is long would keep the window from answering
    constexpr double long_pieces = 2000, long_ms = 30;
    Slot& slot = slots_[axis];
    QElapsedTimer since;
    since.start();
    double pieces = rough_pieces(std::as_const(machine_->axes)[axis].cycle);
    for (const Cycle& c : std::as_const(machine_->axes)[axis].further_cycles) pieces += rough_pieces(c);
    if (slot.took < long_ms && pieces < long_pieces) {
        slot.is = assess(*machine_, axis, {.beyond = &too_long_[axis]});
        slot.took = static_cast<double>(since.nsecsElapsed()) * 1e-6;
        return;
    }
    slot.is = being_assessed(*machine_, machine_->axes[axis], "/axes/" + std::to_string(axis));
    if (!slot.work) slot.work = std::make_unique<Background<std::shared_ptr<Assessment>>>();
    asked_ = true;
    slot.work->run(
        this,
        [machine = machine_, axis, beyond = too_long_[axis]](const StopToken& go_on) {
            return std::make_shared<Assessment>(assess(*machine, axis, {.beyond = &beyond, .go_on = go_on}));
        },
        [this, axis, since](const std::shared_ptr<Assessment>& made) {
            if (!made || axis >= slots_.size()) return;
            slots_[axis].is = std::move(*made);
            slots_[axis].took = static_cast<double>(since.nsecsElapsed()) * 1e-6;
            if (!asked_) emit arrived();
        });
    asked_ = false;
}

} // namespace fulmox::app
