#include "core/match/remedy.h"

#include "core/match/stepping.h"
#include "core/match/words.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <utility>

namespace fulmox {

namespace {

constexpr std::string_view curable[] = {
    "coupling", "stage_peak", "stage_emergency", "stage_ratchet", "buckling", "screw_static", "shaft"};

// To two digits, up or down.
double rounded(double value, bool up) {
    const double digit = std::pow(10.0, std::floor(std::log10(value)) - 1);
    const double exactly = value / digit, whole = std::round(exactly);
    if (std::abs(exactly - whole) < 1e-9 * exactly) return whole * digit;
    return (up ? std::ceil(exactly) : std::floor(exactly)) * digit;
}

class Search {
  public:
    Search(const Machine& machine, std::size_t index, std::string_view key, const std::function<bool()>& go_on)
        : machine_(machine), axis_(machine.axes.at(index)), path_("/axes/" + std::to_string(index)), go_on_(go_on),
          now_(judged(axis_)) {
        for (const Limit& l : now_.limits)
            if (l.state == LimitState::over) over_.insert(l.key);
        if (over_.count(std::string(key))) wanted_.insert(std::string(key));
    }

    std::optional<Remedy> find() {
        if (wanted_.empty() || !now_.demand || motion_of(axis_.mechanism).direct || open_loop(axis_))
            return std::nullopt;
        const std::set<std::string> one = wanted_;
        for (const std::string_view key : curable)
            if (over_.count(std::string(key))) wanted_.insert(std::string(key));
        if (auto all = largest()) return all;
        if (wanted_ == one) return std::nullopt;
        wanted_ = one;
        return largest();
    }

  private:
    const Machine& machine_;
    const Axis& axis_;
    std::string path_;
    const std::function<bool()>& go_on_;
    Assessment now_;
    std::set<std::string> over_, wanted_;

    Assessment judged(const Axis& axis) const {
        return assess(machine_, axis, path_, {.workings = false, .figures = false, .cautions = false});
    }
    const Unit& unit() const { return display_unit(Kind::torque, machine_.unit_system); }

    bool clears(const Assessment& a) const {
        for (const std::string& key : wanted_)
            if (const Limit* l = a.limit(key); !l || (l->state != LimitState::fits && l->state != LimitState::tight))
                return false;
        return std::none_of(a.limits.begin(), a.limits.end(),
            [this](const Limit& l) { return l.state == LimitState::over && !over_.count(l.key); });
    }

    // The changes with this torque limit, N·m, if they do it.
    std::optional<Remedy> with(double torque) const {
        if (go_on_ && !go_on_()) return std::nullopt;
        Axis axis = axis_;
        const double shown = from_si(torque, unit());
        Remedy out;
        out.changes.push_back({"/drive/torque_limit", format_number(shown, 6) + " " + std::string(unit().symbol)});
        axis.drive.torque_limit = Quantity<Kind::torque>(out.changes.back().text);
        out.text = Text("torque limit ") + out.changes.back().text;
        Assessment a = judged(axis);
        const Limit* stop = a.limit("drive_stop");
        if (stop && stop->state == LimitState::over) {
            if (!a.demand || !a.demand->stop_ends) return std::nullopt;
            const std::string time = format_number(rounded(a.demand->stop_time, true), 6) + " s";
            out.changes.push_back({"/drive/stop_time", time});
            axis.drive.stop_time = Quantity<Kind::time>(time);
            if (axis.drive.stop_distance.given()) {
                out.changes.push_back({"/drive/stop_distance", ""});
                axis.drive.stop_distance = {};
            }
            out.text += " and emergency stop in " + time;
            a = judged(axis);
        }
        if (!clears(a)) return std::nullopt;
        return out;
    }

    std::optional<Remedy> largest() const {
        // below what the cycle itself takes no limit does; above what the motor gives, or what limits it now, it is
        // none
        double low = std::abs(now_.demand->peak.torque);
        double high = axis_.drive.torque_limit.given() ? axis_.drive.torque_limit.si : 0;
        if (now_.can && !now_.can->peak.empty()) {
            double most = 0;
            for (const double w : now_.can->peak.speeds()) most = std::max(most, now_.can->peak.at(w));
            high = high > 0 ? std::min(high, most) : most;
        }
        if (high <= 0) high = std::max(now_.demand->emergency_torque, 4 * low);
        if (!(low > 0) || !(high > low)) return std::nullopt;
        const auto round = [this](double si) { return to_si(rounded(from_si(si, unit()), false), unit()); };
        // the smallest round number above what the cycle takes; where that is not enough none is
        double works = round(low);
        while (works < low) works = to_si(rounded(from_si(works, unit()) * 1.05, true), unit());
        std::optional<Remedy> best = with(works);
        if (!best) return std::nullopt;
        double fails = high;
        for (int i = 0; i < 12; ++i) {
            const double between = round(std::sqrt(works * fails));
            if (between <= works || between >= fails) break;
            if (auto found = with(between)) {
                best = std::move(found);
                works = between;
            } else {
                fails = between;
            }
        }
        return best;
    }
};

} // namespace

bool by_torque_limit(std::string_view key) {
    return std::find(std::begin(curable), std::end(curable), key) != std::end(curable);
}

std::optional<Remedy> torque_limit_remedy(
    const Machine& machine, std::size_t axis, std::string_view limit_key, const std::function<bool()>& go_on) {
    if (!by_torque_limit(limit_key)) return std::nullopt;
    return Search(machine, axis, limit_key, go_on).find();
}

} // namespace fulmox
