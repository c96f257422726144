// Work off the window's thread: short work is there at once, long work a little later, and what is out of date is left
// off.
#pragma once

#include <QMetaObject>
#include <QObject>
#include <algorithm>
#include <atomic>
#include <chrono>
#include <functional>
#include <future>
#include <memory>
#include <optional>
#include <vector>

namespace fulmox::app {

/// Asked between two steps of the work: false once nobody waits for it any more. The work may say how far it has come.
class StopToken {
  public:
    struct State {
        std::atomic<bool> wanted{true};
        std::atomic<double> done{0};
    };
    explicit StopToken(std::shared_ptr<State> state) : state_(std::move(state)) {}
    bool operator()() const { return state_->wanted; }
    void done(double share) const { state_->done = share; } ///< 0 to 1

  private:
    std::shared_ptr<State> state_;
};

namespace detail {
inline std::atomic<int> under_way{0};
}
/// Runs anywhere in the program whose result somebody still waits for.
inline int work_under_way() { return detail::under_way; }

/// One kind of work of one owner; a new run takes the place of the one before. A member of the owner, declared last.
template <class Result> class Background {
  public:
    /// `patience`: how long whoever starts a run waits for it before going on.
    explicit Background(std::chrono::milliseconds patience = std::chrono::milliseconds(80)) : patience_(patience) {}
    Background(const Background&) = delete;
    Background& operator=(const Background&) = delete;
    ~Background() { stop(); }

    /// `work` runs on a thread of its own and touches nothing but what it holds; `then` is called on the owner's,
    /// before this returns where the work takes no longer than the patience. Work that throws comes to an empty result.
    void run(QObject* owner, std::function<Result(const StopToken&)> work, std::function<void(Result)> then) {
        drop();
        std::erase_if(runs_, [](const std::future<void>& f) {
            return f.wait_for(std::chrono::seconds(0)) == std::future_status::ready;
        });
        auto state = state_ = std::make_shared<State>();
        ++detail::under_way;
        const auto deliver = [state, then = std::move(then)] {
            if (!state->wanted || !state->result) return;
            forget(*state);
            then(std::move(*state->result));
        };
        runs_.push_back(std::async(std::launch::async, [state, owner, deliver, work = std::move(work)] {
            try {
                state->result = work(StopToken(state));
            } catch (...) {
                state->result = Result{};
            }
            if (state->wanted) QMetaObject::invokeMethod(owner, deliver, Qt::QueuedConnection);
        }));
        if (runs_.back().wait_for(patience_) == std::future_status::ready) deliver();
    }
    bool running() const { return state_ && state_->wanted; }
    /// How far a run has come, 0 to 1, as far as it says so.
    double done() const { return running() ? state_->done.load() : 1; }
    /// No run is left, not even one that was dropped.
    bool idle() const {
        return std::all_of(runs_.begin(), runs_.end(), [](const std::future<void>& f) {
            return f.wait_for(std::chrono::seconds(0)) == std::future_status::ready;
        });
    }
    /// What is under way is of no use any more; it ends by itself.
    void drop() {
        if (state_) forget(*state_);
    }
    void stop() {
        drop();
        runs_.clear(); // waits for each
    }

  private:
    std::chrono::milliseconds patience_;
    struct State : StopToken::State {
        std::optional<Result> result;
    };
    static void forget(State& state) {
        if (state.wanted.exchange(false)) --detail::under_way;
    }
    std::shared_ptr<State> state_;
    std::vector<std::future<void>> runs_;
};

/// Work that nobody waits for any more but that cannot be broken off: it ends by itself, and before the program does.
template <class Result> void let_end(std::unique_ptr<Background<Result>> work) {
    static std::vector<std::unique_ptr<Background<Result>>> left;
    work->drop();
    std::erase_if(left, [](const auto& each) { return each->idle(); });
    if (!work->idle()) left.push_back(std::move(work));
}

} // namespace fulmox::app
