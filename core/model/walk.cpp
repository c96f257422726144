#include "core/model/walk.h"

#include "core/quantity/format.h"

#include <cmath>
#include <type_traits>
#include <utility>

namespace fulmox {

namespace {

class Walker {
  public:
    FieldRefs out;

    /// With `only`, goes into what leads there and no further: nothing else is made the walker's own.
    explicit Walker(std::string path, std::string only = {}) : path_(std::move(path)), only_(std::move(only)) {}

    template <Kind K> void quantity(Quantity<K>& q, const QuantitySpec& spec) {
        FieldRef& f = add(FieldRef::Type::quantity, spec.key);
        f.kind = K;
        f.quantity_spec = spec;
        f.quantity = &q;
        f.active = applies(spec.when, spec.needs);
        serve(f, spec.serves);
        if (spec.decides) chosen_.note(depth_, spec.key, q.given() ? Conditions::given : "");
    }
    template <Order O> void quantity(MotionQuantity<O>& q, const QuantitySpec& spec) {
        FieldRef& f = add(FieldRef::Type::quantity, spec.key);
        f.kind = motion_kind(O, rotary<O>());
        f.quantity_spec = spec.on_rotary(rotary<O>());
        f.quantity = &q;
        f.active = applies(spec.when, spec.needs);
        serve(f, spec.serves);
        f.reread = [&q, about_axis = rotary<O>()] {
            q.si = std::numeric_limits<double>::quiet_NaN();
            q.read(about_axis);
        };
    }
    void motion(const Motion& m) { motion_ = m; }
    template <Order O> bool rotary() const { return motion_.rotary && !(O == Order::force && motion_.linear_force); }
    void samples(Samples& s, const SamplesSpec& spec) {
        FieldRef& f = add(FieldRef::Type::samples, spec.key);
        f.text_spec = {spec.key, spec.label, spec.help};
        f.samples = &s;
    }
    void text(std::string& s, const TextSpec& spec) {
        FieldRef& f = add(FieldRef::Type::text, spec.key);
        f.text_spec = spec;
        f.text = &s;
    }
    template <class E> void choice(E& e, const ChoiceSpec& spec) {
        static_assert(std::is_enum_v<E>);
        FieldRef& f = add(FieldRef::Type::choice, spec.key);
        f.choice_spec = spec;
        f.chosen = [&e] { return static_cast<int>(e); };
        f.choose = [&e](int i) { e = static_cast<E>(i); };
        f.active = applies(spec.when, spec.needs);
        serve(f, spec.serves);
        chosen_.note(depth_, spec.key, spec.options[static_cast<std::size_t>(e)].key);
    }
    void flag(bool& b, const FlagSpec& spec) {
        FieldRef& f = add(FieldRef::Type::flag, spec.key);
        f.flag_spec = spec;
        f.flag = &b;
    }
    template <class T> void group(T& t, const GroupSpec& spec) {
        FieldRef& f = add(FieldRef::Type::group, spec.key);
        f.group_spec = spec;
        serve(f, spec.serves);
        inside(spec.key, f.serves, [&] { T::describe(t, *this); });
    }
    template <class List> void list(List& items, const ListSpec& spec) {
        using T = typename List::value_type;
        FieldRef& f = add(FieldRef::Type::list, spec.key);
        f.list_spec = spec;
        serve(f, spec.serves);
        f.list_size = [&items] { return items.size(); };
        f.list_insert = [&items](std::size_t i) { items.insert(at(items, i), T{}); };
        f.list_duplicate = [&items](std::size_t i) {
            T copy = items.at(i);
            items.insert(at(items, i + 1), std::move(copy));
        };
        f.list_erase = [&items](std::size_t i) { items.erase(at(items, i)); };
        f.list_move = [&items](std::size_t from, std::size_t to) {
            T moved = std::move(items.at(from));
            items.erase(at(items, from));
            items.insert(at(items, to), std::move(moved));
        };
        inside(spec.key, f.serves, [&] {
            for (std::size_t i = 0; i < items.size(); ++i)
                inside(std::to_string(i), serves_, [&] { T::describe(items[i], *this); });
        });
    }
    template <class... T> void variant(std::variant<T...>& v, const GroupSpec& spec) {
        FieldRef& f = add(FieldRef::Type::variant, spec.key);
        f.group_spec = spec;
        serve(f, spec.serves);
        f.variant_kinds = {Option{T::kind_key, T::kind_label}...};
        f.chosen = [&v] { return static_cast<int>(v.index()); };
        f.choose = [&v](int i) {
            int k = 0;
            // only a change of kind makes a new value
            if (static_cast<int>(v.index()) != i) static_cast<void>(((k++ == i && (v = T{}, true)) || ...));
        };
        inside(spec.key, f.serves,
            [&] { std::visit([&](auto& held) { std::decay_t<decltype(held)>::describe(held, *this); }, v); });
    }

  private:
    std::string path_, only_;
    int depth_ = 0;
    Motion motion_;
    Conditions chosen_;
    unsigned serves_ = need::everything;

    bool leads_to_it(const std::string& key) const {
        const std::size_t end = path_.size() + 1 + key.size();
        return only_.size() > end && only_[end] == '/' && only_[path_.size()] == '/' && only_.starts_with(path_) &&
               only_.compare(path_.size() + 1, key.size(), key) == 0;
    }
    static void serve(FieldRef& f, unsigned own) {
        if (own != 0) f.serves = own;
    }
    template <class List> static auto at(List& items, std::size_t i) {
        return items.begin() + static_cast<std::ptrdiff_t>(std::min(i, items.size()));
    }
    FieldRef& add(FieldRef::Type type, const char* key) {
        FieldRef& f = out.emplace_back();
        f.type = type;
        f.path = path_ + "/" + key;
        f.depth = depth_;
        f.serves = serves_;
        return f;
    }
    template <class F> void inside(const std::string& key, unsigned serves, F&& f) {
        const std::size_t length = path_.size();
        if (!only_.empty() && !leads_to_it(key)) return;
        const unsigned before = std::exchange(serves_, serves);
        path_ += "/" + key;
        ++depth_;
        const std::size_t chosen = chosen_.size();
        f();
        chosen_.forget_from(chosen);
        --depth_;
        path_.resize(length);
        serves_ = before;
    }
    bool applies(std::string_view when, unsigned needs) const {
        return (needs & motion_.has) == needs && chosen_.hold(depth_, when);
    }
};

template <class T> FieldRefs walk_any(T& root, const std::string& path) {
    Walker w(path);
    T::describe(root, w);
    return std::move(w.out);
}

} // namespace

FieldRefs walk(Machine& root) { return walk_any(root, ""); }
FieldRefs walk(Axis& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Motor& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Site& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Policy& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Material& root, const std::string& path) { return walk_any(root, path); }

void reread_motion(Axis& axis) {
    for (FieldRef& f : walk(axis))
        if (f.reread && !f.quantity->text.empty()) f.reread();
}

std::string FieldRef::label() const {
    switch (type) {
    case Type::quantity:
        return quantity_spec.label;
    case Type::text:
    case Type::samples:
        return text_spec.label;
    case Type::choice:
        return choice_spec.label;
    case Type::flag:
        return flag_spec.label;
    case Type::list:
        return list_spec.label;
    case Type::group:
    case Type::variant:
        return group_spec.label;
    }
    return {};
}

std::optional<FieldRef> find_field(Machine& root, const std::string& path) {
    Walker w("", path);
    Machine::describe(root, w);
    for (FieldRef& f : w.out)
        if (f.path == path) return std::move(f);
    return std::nullopt;
}

void forget_unread(Machine& root, const std::string& path) {
    const auto within = [](const std::string& inner, const std::string& outer) {
        return inner.starts_with(outer) && (inner.size() == outer.size() || inner[outer.size()] == '/');
    };
    for (std::size_t i = 0; i < root.axes.size(); ++i) {
        const std::string head = "/axes/" + std::to_string(i);
        if (!within(path, head) || root.axes[i].unread.empty()) continue;
        const std::string own = path.substr(head.size());
        std::erase_if(
            root.axes[i].unread, [&](const Problem& p) { return within(p.path, own) || within(own, p.path); });
    }
}

const Unit& spec_unit(const QuantitySpec& spec, Kind kind) { return *find_unit(spec.unit, kind); }

std::string range_text(const QuantitySpec& spec) {
    const auto& [min, max, open_min, open_max] = spec.range;
    const std::string unit = std::string_view(spec.unit) == "1" ? "" : " " + std::string(spec.unit);
    std::string out;
    if (open_min)
        out = "greater than " + format_number(min, 6);
    else
        out = format_number(min, 6);
    out += open_min ? " and " : " to ";
    if (open_max)
        out += "less than ";
    else if (open_min)
        out += "at most ";
    return out + format_number(max, 6) + unit;
}

namespace {

std::optional<std::string> outside(const QuantitySpec& spec, Kind kind, double si, const Unit* own) {
    const Unit& u = spec_unit(spec, kind);
    const double min = to_si(spec.range.min, u);
    const double max = to_si(spec.range.max, u);
    // a hair of slack, so that "100 %" is not refused for the last bit of 0.01 × 100
    const double slack = 1e-12 * std::max(std::abs(min), std::abs(max));
    const bool low = spec.range.open_min ? si <= min : si < min - slack;
    const bool high = spec.range.open_max ? si >= max : si > max + slack;
    if (!low && !high) return std::nullopt;
    return "found " + format_quantity(si, own ? *own : u, 6) + "; allowed is " + range_text(spec);
}

} // namespace

namespace {

// What is wrong with a value, or odd about it.
std::optional<std::pair<Severity, std::string>> fault(const QuantitySpec& spec, Kind kind, const QuantityBase& q) {
    using Fault = std::pair<Severity, std::string>;
    if (q.text.empty()) {
        if (!spec.required) return std::nullopt;
        return Fault{Severity::error, "it is missing; give a value, " + range_text(spec)};
    }
    const Unit& unit = spec_unit(spec, kind);
    if (!q.given()) {
        const auto r = read_quantity(q.text, kind, unit);
        return Fault{Severity::error, "\"" + q.text + "\": " + (r ? "not a number" : r.error().message)};
    }
    if (auto why = outside(spec, kind, q.si, q.unit)) return Fault{Severity::error, std::move(*why)};
    const bool low = std::isfinite(spec.typical.min) && q.si < to_si(spec.typical.min, unit);
    const bool high = std::isfinite(spec.typical.max) && q.si > to_si(spec.typical.max, unit);
    if (low || high)
        return Fault{Severity::suspicious, q.text + " is unusual; typical is " + format_number(spec.typical.min) +
                                               " to " + format_number(spec.typical.max) + " " + spec.unit +
                                               ". Is the unit right?"};
    return std::nullopt;
}

// Counts what lists hold.
class Counter {
  public:
    std::optional<Problem> out;

    template <Kind K> void quantity(const Quantity<K>&, const QuantitySpec&) {}
    template <Order O> void quantity(const MotionQuantity<O>&, const QuantitySpec&) {}
    void motion(const Motion&) {}
    void samples(const Samples& s, const SamplesSpec& spec) { look(s.rows(), spec.most, spec.key, spec.label); }
    void text(const std::string&, const TextSpec&) {}
    template <class E> void choice(const E&, const ChoiceSpec&) {}
    void flag(const bool&, const FlagSpec&) {}
    template <class T> void group(const T& t, const GroupSpec& spec) {
        inside(spec.key, [&] { T::describe(t, *this); });
    }
    template <class List> void list(const List& items, const ListSpec& spec) {
        using T = typename List::value_type;
        look(items.size(), spec.most, spec.key, spec.label);
        inside(spec.key, [&] {
            for (std::size_t i = 0; i < items.size() && !out; ++i)
                inside(std::to_string(i), [&] { T::describe(items[i], *this); });
        });
    }
    template <class... T> void variant(const std::variant<T...>& v, const GroupSpec& spec) {
        inside(spec.key,
            [&] { std::visit([&](const auto& held) { std::decay_t<decltype(held)>::describe(held, *this); }, v); });
    }

  private:
    std::string path_;

    void look(std::size_t count, std::size_t most, const char* key, const char* label) {
        if (count > most && !out)
            out = {Severity::error, path_ + "/" + key, label,
                "found " + std::to_string(count) + "; at most " + std::to_string(most) + " are kept in a file"};
    }
    template <class F> void inside(std::string_view key, F&& f) {
        if (out) return;
        const std::size_t length = path_.size();
        (path_ += '/') += key;
        f();
        path_.resize(length);
    }
};

// Checks every quantity without making a list of the fields first: this runs at every keystroke.
class Checker {
  public:
    Problems out;

    Checker(std::string path, std::string skip) : path_(std::move(path)), skip_(std::move(skip)) {}

    template <Kind K> void quantity(const Quantity<K>& q, const QuantitySpec& spec) {
        look(q, K, spec);
        if (spec.decides) chosen_.note(depth_, spec.key, q.given() ? Conditions::given : "");
    }
    template <Order O> void quantity(const MotionQuantity<O>& q, const QuantitySpec& spec) {
        const bool rotary = motion_.rotary && !(O == Order::force && motion_.linear_force);
        look(q, motion_kind(O, rotary), spec.on_rotary(rotary));
    }
    void motion(const Motion& m) { motion_ = m; }
    void samples(const Samples&, const SamplesSpec&) {}
    void text(const std::string&, const TextSpec&) {}
    template <class E> void choice(const E& e, const ChoiceSpec& spec) {
        chosen_.note(depth_, spec.key, spec.options[static_cast<std::size_t>(e)].key);
    }
    void flag(const bool&, const FlagSpec&) {}
    template <class T> void group(const T& t, const GroupSpec& spec) {
        inside(spec.key, [&] { T::describe(t, *this); });
    }
    template <class List> void list(const List& items, const ListSpec& spec) {
        using T = typename List::value_type;
        inside(spec.key, [&] {
            for (std::size_t i = 0; i < items.size(); ++i)
                inside(std::to_string(i), [&] { T::describe(items[i], *this); });
        });
    }
    template <class... T> void variant(const std::variant<T...>& v, const GroupSpec& spec) {
        inside(spec.key,
            [&] { std::visit([&](const auto& held) { std::decay_t<decltype(held)>::describe(held, *this); }, v); });
    }

  private:
    std::string path_, skip_;
    Motion motion_;
    Conditions chosen_;
    int depth_ = 0;

    void look(const QuantityBase& q, Kind kind, const QuantitySpec& spec) {
        if ((spec.needs & motion_.has) != spec.needs || !chosen_.hold(depth_, spec.when)) return;
        if (auto f = fault(spec, kind, q))
            out.push_back({f->first, path_ + "/" + spec.key, spec.label, std::move(f->second)});
    }
    template <class F> void inside(std::string_view key, F&& f) {
        const std::size_t length = path_.size();
        path_ += '/';
        path_ += key;
        ++depth_;
        const std::size_t choices = chosen_.size();
        if (skip_.empty() || path_ != skip_) f();
        chosen_.forget_from(choices);
        --depth_;
        path_.resize(length);
    }
};

} // namespace

std::optional<Problem> check(const FieldRef& f) {
    if (f.type != FieldRef::Type::quantity || !f.active) return std::nullopt;
    if (auto found = fault(f.quantity_spec, f.kind, *f.quantity))
        return Problem{found->first, f.path, f.quantity_spec.label, std::move(found->second)};
    return std::nullopt;
}

Problems check_quantities(const Axis& axis, const std::string& path, const std::string& skip) {
    Checker c(path, skip);
    Axis::describe(axis, c);
    return std::move(c.out);
}

std::optional<Problem> assign(FieldRef& f, std::string_view text) {
    QuantityBase& q = *f.quantity;
    const QuantitySpec& spec = f.quantity_spec;
    const auto problem = [&](std::string message) {
        return Problem{Severity::error, f.path, spec.label, std::move(message)};
    };
    if (text.find_first_not_of(" \t\r\n") == std::string_view::npos) {
        if (spec.required) return problem("it is empty; give a value, " + range_text(spec));
        q = QuantityBase{};
        return std::nullopt;
    }
    const Unit& bare = q.unit && q.unit->kind == f.kind ? *q.unit : spec_unit(spec, f.kind);
    const auto r = read_quantity(text, f.kind, bare);
    if (!r) return problem(r.error().message);
    if (const auto why = outside(spec, f.kind, r->si, r->unit)) return problem(*why);
    q.si = r->si;
    q.tolerance = r->tolerance;
    q.unit = r->unit;
    q.text = with_unit(text, *r);
    return std::nullopt;
}

std::optional<Problem> overfull(const Machine& machine) {
    Counter c;
    Machine::describe(machine, c);
    return c.out;
}

} // namespace fulmox
