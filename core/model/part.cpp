#include "core/model/part.h"

#include "core/model/validate.h"
#include "core/model/walk.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <map>
#include <set>
#include <stdexcept>
#include <utility>

namespace fulmox {

namespace {

bool among(std::span<const char* const> keys, std::string_view key) {
    return std::any_of(keys.begin(), keys.end(), [&](const char* k) { return key == k; });
}

// Takes the values of some fields along, and lays them into another struct of the same kind.
class Carrier : public FieldVisitor {
  public:
    explicit Carrier(std::span<const char* const> keys) : keys_(keys) {}
    void lay_down() { laying_ = true; }

  private:
    std::span<const char* const> keys_;
    bool laying_ = false;
    std::map<std::string_view, QuantityBase> quantities_;
    std::map<std::string_view, int> choices_;
    std::map<std::string_view, bool> flags_;
    std::map<std::string_view, std::string> texts_;

    bool writes() const override { return true; }
    template <class T, class Get, class Set>
    void meet(const char* key, std::map<std::string_view, T>& kept, Get&& get, Set&& set) {
        if (!among(keys_, key)) return;
        if (!laying_)
            kept.emplace(key, get());
        else if (const auto it = kept.find(key); it != kept.end())
            set(it->second);
    }
    void on_quantity(QuantityBase& q, const QuantitySpec& spec, const Place&) override {
        meet(
            spec.key, quantities_, [&] { return q; }, [&](const QuantityBase& v) { q = v; });
    }
    void on_text(std::string& s, const TextSpec& spec, const Place&) override {
        meet(
            spec.key, texts_, [&] { return s; }, [&](const std::string& v) { s = v; });
    }
    void on_choice(ChoiceRef c, const ChoiceSpec& spec, const Place&) override {
        meet(
            spec.key, choices_, [&] { return c.chosen(); }, [&](int v) { c.choose(v); });
    }
    void on_flag(bool& b, const FlagSpec& spec, const Place&) override {
        meet(
            spec.key, flags_, [&] { return b; }, [&](bool v) { b = v; });
    }
};

// `to` with the fields of these keys as `from` has them.
template <class T> void carry(const T& from, T& to, std::span<const char* const> keys) {
    if (keys.empty()) return;
    Carrier carrier(keys);
    look_over(from, carrier);
    carrier.lay_down();
    to.describe(carrier);
}

constexpr const char* stage_placed[] = {"radial_load", "axial_load", "tilting_moment", "adapter", "stop_torque"};
constexpr const char* coupling_placed[] = {"place", "service_factor", "driving_bore", "driven_bore", "driven_shaft",
    "angular", "parallel", "axial", "radial_load"};
constexpr const char* brake_placed[] = {"place"};
// the bus, how the drive is set, what the controller gives, how the axis stops, how warm the motor is
constexpr const char* drive_placed[] = {"bus_voltage", "mains_tolerance", "bus_droop", "mains_rise", "derating",
    "torque_limit", "phase_current", "idle_current", "idle_delay", "microsteps", "pulse_limit", "ramp_start", "cold",
    "hot", "encoder", "controller", "stop_time", "stop_distance", "emergency_torque", "emergency_stops",
    "field_weakening"};

template <class T> std::span<const char* const> placed_of() {
    if constexpr (std::is_same_v<T, Stage>) return stage_placed;
    if constexpr (std::is_same_v<T, Coupling>) return coupling_placed;
    if constexpr (std::is_same_v<T, Brake>) return brake_placed;
    if constexpr (std::is_same_v<T, Drive>) return drive_placed;
    return {};
}

// The part of an axis; gearheads are a list, the others stand alone, and a supply feeds more than one axis.
template <class T> T& part_of(Axis& a, [[maybe_unused]] std::size_t place) {
    if constexpr (std::is_same_v<T, Motor>) return a.motor;
    if constexpr (std::is_same_v<T, Stage>) return a.stages.at(place);
    if constexpr (std::is_same_v<T, Coupling>) return a.coupling;
    if constexpr (std::is_same_v<T, Brake>) return a.brake;
    if constexpr (std::is_same_v<T, Drive>) return a.drive;
    throw std::out_of_range("an axis holds no such part");
}

template <auto List>
PartKind kind_of(const char* key, const char* label, const char* list, const char* lists, const char* at) {
    using T = typename std::remove_reference_t<decltype(std::declval<PartLists>().*List)>::value_type;
    return {
        .key = key,
        .label = label,
        .list = list,
        .lists = lists,
        .placed = placed_of<T>(),
        .at = at,
        .own = [](PartLists& p) { return ListRef(p.*List); },
        .places = [](const Axis& a) -> std::size_t {
            return std::is_same_v<T, Stage> ? a.stages.size() : std::is_same_v<T, Supply> ? 0 : 1;
        },
        .chosen = [](Axis& a, std::size_t place) { return GroupRef(part_of<T>(a, place)); },
        .name = [](PartLists& p, std::size_t i) -> std::string& { return (p.*List).at(i).name; },
        .chosen_name = [](Axis& a, std::size_t place) -> std::string& { return part_of<T>(a, place).name; },
        .provenance = [](PartLists& p, std::size_t i) -> Provenance& { return (p.*List).at(i).provenance; },
        .price = [](const PartLists& p, std::size_t i) -> const QuantityBase& { return (p.*List).at(i).price; },
        .mass = [](const PartLists& p, std::size_t i) -> const QuantityBase& { return (p.*List).at(i).mass; },
        .put =
            [](Axis& a, std::size_t place, const PartLists& p, std::size_t i) {
                T taken = (p.*List).at(i);
                if constexpr (std::is_same_v<T, Stage>)
                    if (place >= a.stages.size()) {
                        a.stages.push_back(std::move(taken));
                        return;
                    }
                T& here = part_of<T>(a, place);
                carry(here, taken, placed_of<T>());
                if constexpr (requires { taken.in_place; }) taken.in_place = true;
                here = std::move(taken);
            },
        .remove =
            [](Axis& a, std::size_t place) {
                if constexpr (std::is_same_v<T, Stage>) {
                    a.stages.erase(a.stages.begin() + static_cast<std::ptrdiff_t>(place));
                } else {
                    T none, &here = part_of<T>(a, place);
                    carry(here, none, placed_of<T>());
                    if constexpr (std::is_same_v<T, Coupling>)
                        none.driving_bore = none.driven_bore = {}; // its hubs go too
                    here = std::move(none);
                }
            },
        .keep = [](PartLists& to, const PartLists& from, std::size_t i) { (to.*List).push_back((from.*List).at(i)); },
        .keep_chosen =
            [](PartLists& to, const Axis& from, std::size_t place) {
                T copy = part_of<T>(const_cast<Axis&>(from), place); // only looked at
                carry(T{}, copy, placed_of<T>());
                if constexpr (requires { copy.in_place; }) copy.in_place = false;
                (to.*List).push_back(std::move(copy));
            },
    };
}

} // namespace

void stay_in_place(Axis& axis) {
    axis.coupling.in_place = axis.coupling.there();
    axis.brake.in_place = axis.brake.there();
    axis.drive.in_place = axis.has_drive();
}

const std::vector<PartKind>& part_kinds() {
    static const std::vector<PartKind> kinds{
        kind_of<&PartLists::motors>("motor", "Motor", "motors", "Motors", "/motor"),
        kind_of<&PartLists::gearheads>("gearhead", "Gearhead", "gearheads", "Gearheads", "/stages"),
        kind_of<&PartLists::couplings>("coupling", "Coupling", "couplings", "Couplings", "/coupling"),
        kind_of<&PartLists::brakes>("brake", "Brake", "brakes", "Brakes", "/brake"),
        kind_of<&PartLists::drives>("drive", "Drive", "drives", "Drives", "/drive"),
        kind_of<&PartLists::supplies>("supply", "Supply", "supplies", "Supplies", ""),
    };
    return kinds;
}

const PartKind& part_kind(std::string_view key) {
    for (const PartKind& kind : part_kinds())
        if (kind.key == key) return kind;
    throw std::out_of_range("no kind of part \"" + std::string(key) + "\"");
}

bool is_placed(const PartKind& kind, std::string_view key) { return among(kind.placed, key); }

namespace {

// Lists are only written where they are another's to write.
PartLists& looked_at(const PartLists& parts) { return const_cast<PartLists&>(parts); }

std::string value_of(const FieldRef& f) {
    return f.type == FieldRef::Type::list ? std::to_string(f.list.size()) : f.words();
}

} // namespace

std::optional<std::size_t> find_part(const PartKind& kind, const PartLists& in, std::string_view name) {
    const std::size_t all = kind.own(looked_at(in)).size();
    for (std::size_t i = 0; i < all; ++i)
        if (kind.name(looked_at(in), i) == name) return i;
    return std::nullopt;
}

namespace {

template <class Taken> std::string with_number(const std::string& wanted, Taken&& taken) {
    const std::string name = wanted.empty() ? "Typed by hand" : wanted;
    std::string free = name;
    for (int n = 2; taken(free); ++n) free = name + " (" + std::to_string(n) + ")";
    return free;
}

} // namespace

std::string free_name(const PartKind& kind, const PartLists& in, const std::string& wanted) {
    return with_number(wanted, [&](const std::string& name) { return find_part(kind, in, name).has_value(); });
}

std::size_t keep_all(const PartKind& kind, PartLists& to, const PartLists& from) {
    // looked up once for each part, of which there may be a hundred thousand
    std::set<std::string> names;
    std::map<std::pair<std::string, std::string>, std::size_t> earlier; // by file and name
    for (std::size_t i = 0; i < kind.own(to).size(); ++i) {
        names.insert(kind.name(to, i));
        if (const std::string& file = kind.provenance(to, i).file; !file.empty())
            earlier.emplace(std::pair(file, kind.name(to, i)), i);
    }
    std::vector<std::size_t> gone;
    const std::size_t count = kind.own(looked_at(from)).size();
    for (std::size_t i = 0; i < count; ++i) {
        kind.keep(to, from, i);
        const std::size_t last = kind.own(to).size() - 1;
        std::string& name = kind.name(to, last);
        const std::string& file = kind.provenance(to, last).file;
        name = with_number(name, [&](const std::string& each) {
            return names.contains(each) && !earlier.contains({file, each});
        });
        if (const auto it = earlier.find({file, name}); it != earlier.end()) {
            gone.push_back(it->second);
            earlier.erase(it); // a second one of the name in the same list is another part
        }
        names.insert(name);
    }
    std::sort(gone.rbegin(), gone.rend());
    for (const std::size_t i : gone) kind.own(to).erase(i);
    return gone.size();
}

std::vector<PartDifference> part_differences(
    const PartKind& kind, const Axis& axis, std::size_t place, const PartLists& in, std::size_t i) {
    std::vector<PartDifference> out;
    const FieldRefs here = walk(kind.chosen(const_cast<Axis&>(axis), place)),
                    there = walk(kind.own(looked_at(in)).shared_entry(i));
    std::map<std::string_view, const FieldRef*> others;
    for (const FieldRef& f : there) others.emplace(f.path, &f);
    const auto counts = [&](const FieldRef& f) {
        return f.path != "/name" && !f.path.starts_with("/listing") && !f.path.starts_with("/pictures") &&
               !(f.depth == 0 && is_placed(kind, std::string_view(f.path).substr(1)));
    };
    const auto same = [](const FieldRef& a, const FieldRef& b) {
        if (a.type != FieldRef::Type::quantity) return value_of(a) == value_of(b);
        return a.quantity->given() == b.quantity->given() &&
               (a.quantity->given() ? a.quantity->si == b.quantity->si : a.quantity->text == b.quantity->text);
    };
    const auto shown = [](const std::string& value) { return value.empty() ? std::string("nothing") : value; };
    for (const FieldRef& f : here) {
        if (!counts(f)) continue;
        const auto other = others.find(f.path);
        if (other == others.end()) {
            if (!value_of(f).empty() && f.type == FieldRef::Type::quantity)
                out.push_back({f.label(), value_of(f), "nothing"});
            continue;
        }
        if (!same(f, *other->second)) out.push_back({f.label(), shown(value_of(f)), shown(value_of(*other->second))});
        others.erase(other);
    }
    for (const auto& [path, f] : others)
        if (counts(*f) && f->type == FieldRef::Type::quantity && f->quantity->given())
            out.push_back({f->label(), "nothing", value_of(*f)});
    return out;
}

Problems part_contradictions(const PartKind& kind, const PartLists& parts, std::size_t i) {
    Problems out;
    if (!*kind.at) return out;
    // an axis is not made again for each of a hundred thousand
    static thread_local std::map<const PartKind*, Axis> axes;
    Axis& axis = axes[&kind];
    kind.put(axis, 0, parts, i);
    const std::string at = kind.at + std::string(kind.key == std::string_view("gearhead") ? "/0" : "");
    for (Problem& p : contradictions(axis)) {
        if (!p.path.starts_with(at)) continue;
        p.path.replace(0, at.size(), "/" + std::string(kind.list) + "/" + std::to_string(i));
        out.push_back(std::move(p));
    }
    return out;
}

Problems check_parts(const PartLists& parts) {
    Problems out;
    for (const PartKind& kind : part_kinds()) {
        const ListRef list = kind.own(looked_at(parts));
        std::map<std::string_view, std::size_t> names;
        for (std::size_t i = 0; i < list.size(); ++i) {
            const std::string path = "/" + std::string(kind.list) + "/" + std::to_string(i);
            const std::string& name = kind.name(looked_at(parts), i);
            if (name.empty())
                out.push_back(
                    {Severity::error, path + "/name", kind.label, "it has no name; a catalogue knows parts by it"});
            else if (const auto [first, added] = names.emplace(name, i); !added)
                out.push_back({Severity::error, path + "/name", kind.label,
                    "\"" + name + "\" is the name of two parts, the other is number " +
                        std::to_string(first->second + 1) + "; names must differ"});
            for (Problem& p : check_quantities(list.shared_entry(i), path)) out.push_back(std::move(p));
            for (Problem& p : part_contradictions(kind, parts, i)) out.push_back(std::move(p));
        }
    }
    return out;
}

} // namespace fulmox
