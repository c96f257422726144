#include "core/model/walk.h"

#include "core/quantity/format.h"

#include <array>
#include <cmath>
#include <cstdint>
#include <utility>

namespace fulmox {

namespace {

class Walker : public FieldVisitor {
  public:
    FieldRefs out;

    /// With `only`, goes into what leads there and no further: nothing else is made the walker's own.
    explicit Walker(std::string path, std::string only = {}) : FieldVisitor(std::move(path)), only_(std::move(only)) {}

  private:
    std::string only_;

    void on_quantity(QuantityBase& q, const QuantitySpec& spec, const Place& place) override {
        FieldRef& f = add(FieldRef::Type::quantity, place);
        f.kind = place.kind;
        f.quantity_spec = spec;
        f.quantity = &q;
        f.along_axis = place.order.has_value();
    }
    void on_samples(Samples& s, const SamplesSpec& spec, const Place& place) override {
        FieldRef& f = add(FieldRef::Type::samples, place);
        f.text_spec = {spec.key, spec.label, spec.help};
        f.samples = &s;
    }
    void on_attachment(Attachment& a, const AttachmentSpec& spec, const Place& place) override {
        FieldRef& f = add(FieldRef::Type::attachment, place);
        f.text_spec = {spec.key, spec.label, spec.help};
        f.attachment = &a;
    }
    void on_text(std::string& s, const TextSpec& spec, const Place& place) override {
        FieldRef& f = add(FieldRef::Type::text, place);
        f.text_spec = spec;
        f.text = &s;
    }
    void on_choice(ChoiceRef choice, const ChoiceSpec& spec, const Place& place) override {
        FieldRef& f = add(FieldRef::Type::choice, place);
        f.choice_spec = spec;
        f.choice = choice;
    }
    void on_flag(bool& b, const FlagSpec& spec, const Place& place) override {
        if (spec.by_itself) return;
        FieldRef& f = add(FieldRef::Type::flag, place);
        f.flag_spec = spec;
        f.flag = &b;
    }
    void on_group(GroupRef group, const GroupSpec& spec, const Place& place) override {
        add(FieldRef::Type::group, place).group_spec = spec;
        enter(place, group);
    }
    void on_list(ListRef list, const ListSpec& spec, const Place& place) override {
        FieldRef& f = add(FieldRef::Type::list, place);
        f.list_spec = spec;
        f.list = list;
        enter(place, list);
    }
    void on_variant(VariantRef variant, const GroupSpec& spec, const Place& place) override {
        FieldRef& f = add(FieldRef::Type::variant, place);
        f.group_spec = spec;
        f.variant = variant;
        enter(place, variant.held());
    }
    bool writes() const override { return true; }
    bool enters() override {
        return only_.empty() ||
               (only_.starts_with(path()) && only_.size() > path().size() && only_[path().size()] == '/');
    }
    FieldRef& add(FieldRef::Type type, const Place& place) {
        FieldRef& f = out.emplace_back();
        f.type = type;
        f.path = path_of(place);
        f.depth = depth();
        f.serves = place.serves;
        f.active = place.active;
        return f;
    }
};

template <class T> FieldRefs walk_any(T& root, const std::string& path) {
    Walker w(path);
    root.describe(w);
    return std::move(w.out);
}

} // namespace

FieldRefs walk(Machine& root) { return walk_any(root, ""); }
FieldRefs walk(Axis& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Motor& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Site& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Operation& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Surroundings& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Policy& root, const std::string& path) { return walk_any(root, path); }
FieldRefs walk(Material& root, const std::string& path) { return walk_any(root, path); }

FieldRefs walk(const GroupRef& root, const std::string& path) {
    Walker w(path);
    root.describe(w);
    return std::move(w.out);
}

void reread_motion(Axis& axis) {
    for (FieldRef& f : walk(axis))
        if (f.along_axis && !f.quantity->text.empty()) reread_as(f.kind, *f.quantity);
}

std::string FieldRef::label() const {
    switch (type) {
    case Type::quantity:
        return quantity_spec.label;
    case Type::text:
    case Type::samples:
    case Type::attachment:
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

std::string FieldRef::words() const {
    switch (type) {
    case Type::quantity:
        return quantity->text;
    case Type::text:
        return *text;
    case Type::choice:
        return choice_spec.options[static_cast<std::size_t>(chosen())].label;
    case Type::variant:
        return variant.kinds()[static_cast<std::size_t>(chosen())].label;
    case Type::flag:
        return *flag ? "yes" : "no";
    case Type::samples:
        return std::to_string(samples->rows()) + " samples";
    case Type::attachment:
        return attachment->empty() ? "" : std::to_string(attachment->size()) + " bytes";
    default:
        return {};
    }
}

std::optional<FieldRef> find_field(Machine& root, const std::string& path) {
    Walker w("", path);
    root.describe(w);
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

// Every check of every field asks for it, and the texts of specs are literals: their address tells them apart.
const Unit& spec_unit(const QuantitySpec& spec, Kind kind) {
    struct Entry {
        const char* text = nullptr;
        Kind kind = Kind::illegal;
        const Unit* unit = nullptr;
    };
    thread_local std::array<Entry, 512> seen;
    const auto at =
        (reinterpret_cast<std::uintptr_t>(spec.unit) / sizeof(void*) + 31 * static_cast<std::size_t>(kind)) %
        seen.size();
    Entry& e = seen[at];
    if (e.text != spec.unit || e.kind != kind) e = {spec.unit, kind, find_unit(spec.unit, kind)};
    return *e.unit;
}

namespace {

// "1 000 000", as people write it and as it is read again.
std::string bound(double v) {
    std::string digits = format_number(v, 7);
    const std::size_t first = digits.starts_with('-') ? 1 : 0;
    if (digits.find_first_not_of("0123456789", first) == std::string::npos && digits.size() - first > 4)
        for (std::size_t at = digits.size() - 3; at > first && at < digits.size(); at -= 3) digits.insert(at, " ");
    return digits;
}

} // namespace

std::string range_text(const QuantitySpec& spec, bool whole) {
    const auto& [min, max, open_min, open_max] = spec.range;
    const std::string unit = std::string_view(spec.unit) == "1" ? "" : " " + std::string(spec.unit);
    // a bound that no machine comes near is there for typing errors only
    if (!whole && max >= 1e6 && min == 0) return open_min ? "above 0" : "0 or more";
    std::string out = open_min ? "above " + bound(min) + (open_max ? " and " : ", at most ")
                               : bound(min) + (open_max ? " or more and " : " to ");
    if (open_max) out += "below ";
    return out + bound(max) + unit;
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
    return "found " + format_quantity(si, own ? *own : u, 6) + "; allowed is " + range_text(spec, true);
}

} // namespace

std::optional<std::pair<Severity, std::string>> fault(const QuantitySpec& spec, Kind kind, const QuantityBase& q) {
    using Fault = std::pair<Severity, std::string>;
    if (q.text.empty()) {
        if (!spec.required) return std::nullopt;
        // a field that takes any number needs no range
        const bool any = spec.range.min <= -1e6 && spec.range.max >= 1e6;
        return Fault{Severity::error, any ? "missing" : "missing (" + range_text(spec, false) + ")"};
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

namespace {

// Bytes of all attachments: as base64 they are a third more, and no file may exceed its bound.
constexpr std::size_t most_attached = 40u << 20;

// Counts what lists hold.
class Counter : public FieldVisitor {
  public:
    std::optional<Problem> out;

  private:
    void on_samples(Samples& s, const SamplesSpec& spec, const Place& place) override {
        look(s.rows(), spec.most, place, spec.label);
    }
    void on_list(ListRef list, const ListSpec& spec, const Place& place) override {
        look(list.size(), spec.most, place, spec.label);
        enter(place, list);
    }
    void on_attachment(Attachment& a, const AttachmentSpec& spec, const Place& place) override {
        if (a.size() > spec.most && !out)
            out = {Severity::error, path_of(place), spec.label,
                "found " + megabytes(a.size()) + "; at most " + megabytes(spec.most) + " are kept in a file"};
        attached_ += a.size();
        if (attached_ > most_attached && !out)
            out = {Severity::error, path_of(place), spec.label,
                "with it the pictures of this project have " + megabytes(attached_) + "; at most " +
                    megabytes(most_attached) + " are kept in a file"};
    }
    bool enters() override { return !out; }
    static std::string megabytes(std::size_t bytes) {
        return format_number(static_cast<double>(bytes) / (1 << 20), 3) + " MB";
    }
    std::size_t attached_ = 0; // bytes so far
    void look(std::size_t count, std::size_t most, const Place& place, const char* label) {
        if (count > most && !out)
            out = {Severity::error, path_of(place), label,
                "found " + std::to_string(count) + "; at most " + std::to_string(most) + " are kept in a file"};
    }
};

// Checks every quantity without making a list of the fields first: this runs at every keystroke.
class Checker : public FieldVisitor {
  public:
    Problems out;

    Checker(std::string path, std::string skip, bool whole = true)
        : FieldVisitor(std::move(path)), skip_(std::move(skip)), whole_(whole) {}

  private:
    std::string skip_;
    bool whole_; // what is missing is wrong

    void on_quantity(QuantityBase& q, const QuantitySpec& spec, const Place& place) override {
        if (!place.active || (!whole_ && q.text.empty())) return;
        if (auto f = fault(spec, place.kind, q))
            out.push_back({f->first, path_of(place), spec.label, std::move(f->second)});
    }
    bool enters() override { return skip_.empty() || path() != skip_; }
};

class StandInFinder : public FieldVisitor {
  public:
    std::vector<StandIn> out;
    explicit StandInFinder(const Axis& axis) : axis_(axis) {}

  private:
    const Axis& axis_;

    void on_quantity(QuantityBase& q, const QuantitySpec& spec, const Place& place) override {
        if (!place.active || spec.required || spec.if_empty.means != Empty::stands_in || q.given()) return;
        const need::Bits serves = spec.serves ? spec.serves : place.serves;
        if ((serves & need::record) != 0) return;
        out.push_back({path_of(place), spec.label, spec.if_empty.words, serves});
    }
    bool enters() override {
        return (axis_.driven() || path() != "/motor") && (axis_.coupling.there() || path() != "/coupling") &&
               (axis_.brake.there() || path() != "/brake");
    }
};

} // namespace

std::vector<StandIn> stand_ins(const Axis& axis) {
    StandInFinder finder(axis);
    look_over(axis, finder);
    return std::move(finder.out);
}

std::optional<Problem> check(const FieldRef& f) {
    if (f.type != FieldRef::Type::quantity || !f.active) return std::nullopt;
    if (auto found = fault(f.quantity_spec, f.kind, *f.quantity))
        return Problem{found->first, f.path, f.quantity_spec.label, std::move(found->second)};
    return std::nullopt;
}

Problems check_quantities(const Axis& axis, const std::string& path, const std::string& skip) {
    Checker c(path, skip);
    look_over(axis, c);
    return std::move(c.out);
}

Problems check_quantities(const GroupRef& group, const std::string& path, bool whole) {
    Checker c(path, "", whole);
    group.describe(c);
    return std::move(c.out);
}

std::optional<Problem> assign(FieldRef& f, std::string_view text) {
    QuantityBase& q = *f.quantity;
    const QuantitySpec& spec = f.quantity_spec;
    const auto problem = [&](std::string message) {
        return Problem{Severity::error, f.path, spec.label, std::move(message)};
    };
    if (text.find_first_not_of(" \t\r\n") == std::string_view::npos) {
        if (spec.required) return problem("it is empty; give a value, " + range_text(spec, false));
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
    look_over(machine, c);
    return c.out;
}

} // namespace fulmox
