#include "core/model/visitor.h"

namespace fulmox {

void FieldVisitor::meet(QuantityBase& q, Kind kind, std::optional<Order> order, const QuantitySpec& spec) {
    Place place = here(spec.key, spec.serves);
    place.active = spec.applies && has(spec.needs);
    place.kind = kind;
    place.order = order;
    place.written = &spec;
    if (order && kind == motion_kind(*order, true))
        on_quantity(q, spec.on_rotary(true), place);
    else
        on_quantity(q, spec, place);
}

void FieldVisitor::meet(ChoiceRef choice, const ChoiceSpec& spec) {
    Place place = here(spec.key, spec.serves);
    place.active = spec.applies && has(spec.needs);
    on_choice(choice, spec, place);
}

template <class F> void FieldVisitor::inside(std::string_view key, need::Bits serves, F&& describe) {
    const std::size_t length = path_.size();
    const Motion motion = motion_;
    const need::Bits before = std::exchange(serves_, serves);
    (path_ += '/') += key;
    ++depth_;
    if (enters()) describe();
    --depth_;
    path_.resize(length);
    serves_ = before;
    motion_ = motion;
}

void FieldVisitor::enter(const Place& place, const GroupRef& group, const Work& after) {
    inside(place.key, place.serves, [&] {
        group.describe(*this);
        if (after) after();
    });
}

void FieldVisitor::enter(const Place& place, const ListRef& list) {
    inside(place.key, place.serves, [&] {
        for (std::size_t i = 0; i < list.size(); ++i) enter_entry(list, i);
    });
}

void FieldVisitor::enter_entry(const ListRef& list, std::size_t i, const Work& after) {
    inside(std::to_string(i), serves_, [&] {
        // made the list's own only here, where something in it is meant
        (writes() ? list.entry(i) : list.shared_entry(i)).describe(*this);
        if (after) after();
    });
}

void FieldVisitor::within(const Place& place, const Work& work) { inside(place.key, place.serves, work); }

} // namespace fulmox
