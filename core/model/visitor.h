// Goes over the description of a struct. The one scope in the base decides for every visitor how a field stands where
// it is met: whether it is active, in which kind and range, and what it serves.
#pragma once

#include "core/model/attachment.h"
#include "core/model/field.h"
#include "core/model/motion_quantity.h"
#include "core/model/provenance.h"
#include "core/model/samples.h"

#include <functional>
#include <optional>
#include <type_traits>
#include <utility>
#include <variant>

namespace fulmox {

/// A choice without its type. Valid as long as the struct it lies in stays put, like all that follow.
class ChoiceRef {
  public:
    ChoiceRef() = default;
    template <class E> explicit ChoiceRef(E& e) : it_(&e), get_(&get<E>), set_(&set<E>) {
        static_assert(std::is_enum_v<E>);
    }
    explicit operator bool() const { return it_ != nullptr; }
    int chosen() const { return get_(it_); }
    void choose(int option) const { set_(it_, option); }

  private:
    void* it_ = nullptr;
    int (*get_)(const void*) = nullptr;
    void (*set_)(void*, int) = nullptr;

    template <class E> static int get(const void* e) { return static_cast<int>(*static_cast<const E*>(e)); }
    template <class E> static void set(void* e, int option) { *static_cast<E*>(e) = static_cast<E>(option); }
};

/// A described struct without its type.
class GroupRef {
  public:
    GroupRef() = default;
    template <class T> explicit GroupRef(T& t) : it_(&t), describe_(&describe_as<T>), extra_(&extra_of<T>) {}
    void describe(FieldVisitor& v) const { describe_(it_, v); }
    Extra& extra() const { return *extra_(it_); }

  private:
    void* it_ = nullptr;
    void (*describe_)(void*, FieldVisitor&) = nullptr;
    Extra* (*extra_)(void*) = nullptr;

    template <class T> static void describe_as(void* t, FieldVisitor& v) { static_cast<T*>(t)->describe(v); }
    template <class T> static Extra* extra_of(void* t) { return &static_cast<T*>(t)->extra; }
};

/// A list of described structs without its type. Places beyond the end mean the end.
class ListRef {
  public:
    ListRef() = default;
    template <class List> explicit ListRef(List& items) : it_(&items), ops_(&ops<List>) {}
    explicit operator bool() const { return it_ != nullptr; }
    std::size_t size() const { return ops_->size(it_); }
    /// The entry, made the list's own where copies of the list share it.
    GroupRef entry(std::size_t i) const { return ops_->entry(it_, i); }
    /// The entry as it is, only to be looked at.
    GroupRef shared_entry(std::size_t i) const { return ops_->shared_entry(it_, i); }
    void clear() const { ops_->clear(it_); }
    void insert(std::size_t before) const { ops_->insert(it_, before); } ///< a default entry
    void duplicate(std::size_t i) const { ops_->duplicate(it_, i); }
    void erase(std::size_t i) const { ops_->erase(it_, i); }
    void move(std::size_t from, std::size_t to) const { ops_->move(it_, from, to); }
    /// Describes a default entry.
    void describe_blank(FieldVisitor& v) const { ops_->describe_blank(v); }

  private:
    struct Ops {
        std::size_t (*size)(const void*);
        GroupRef (*entry)(void*, std::size_t);
        GroupRef (*shared_entry)(const void*, std::size_t);
        void (*clear)(void*);
        void (*insert)(void*, std::size_t);
        void (*duplicate)(void*, std::size_t);
        void (*erase)(void*, std::size_t);
        void (*move)(void*, std::size_t, std::size_t);
        void (*describe_blank)(FieldVisitor&);
    };
    void* it_ = nullptr;
    const Ops* ops_ = nullptr;

    template <class List> static List& as(void* it) { return *static_cast<List*>(it); }
    template <class List> static auto at(List& items, std::size_t i) {
        return items.begin() + static_cast<std::ptrdiff_t>(i < items.size() ? i : items.size());
    }
    template <class List>
    static constexpr Ops ops{[](const void* it) { return static_cast<const List*>(it)->size(); },
        [](void* it, std::size_t i) { return GroupRef(as<List>(it).at(i)); },
        [](const void* it, std::size_t i) {
            using T = typename List::value_type;
            return GroupRef(const_cast<T&>(static_cast<const List*>(it)->at(i)));
        },
        [](void* it) { as<List>(it).clear(); },
        [](void* it, std::size_t before) {
            List& items = as<List>(it);
            items.insert(at(items, before), typename List::value_type{});
        },
        [](void* it, std::size_t i) {
            List& items = as<List>(it);
            auto copy = std::as_const(items).at(i);
            items.insert(at(items, i + 1), std::move(copy));
        },
        [](void* it, std::size_t i) {
            List& items = as<List>(it);
            items.erase(at(items, i));
        },
        [](void* it, std::size_t from, std::size_t to) {
            List& items = as<List>(it);
            auto moved = std::move(items.at(from));
            items.erase(at(items, from));
            items.insert(at(items, to), std::move(moved));
        },
        [](FieldVisitor& v) { typename List::value_type{}.describe(v); }};
};

/// One of several kinds of described struct, without their types.
class VariantRef {
  public:
    VariantRef() = default;
    template <class... T> explicit VariantRef(std::variant<T...>& v) : it_(&v), ops_(&ops<T...>) {}
    explicit operator bool() const { return it_ != nullptr; }
    std::span<const Option> kinds() const { return ops_->kinds; }
    int chosen() const { return ops_->chosen(it_); }
    /// Only a change of kind makes a new value.
    void choose(int kind) const {
        if (kind != chosen()) reset(kind);
    }
    void reset(int kind) const { ops_->reset(it_, kind); } ///< a default value of that kind
    GroupRef held() const { return ops_->held(it_); }
    /// Describes a default value of that kind.
    void describe_blank(int kind, FieldVisitor& v) const { ops_->describe_blank(kind, v); }

  private:
    struct Ops {
        std::span<const Option> kinds;
        int (*chosen)(const void*);
        void (*reset)(void*, int);
        GroupRef (*held)(void*);
        void (*describe_blank)(int, FieldVisitor&);
    };
    void* it_ = nullptr;
    const Ops* ops_ = nullptr;

    template <class... T> static constexpr Option kind_options[sizeof...(T)] = {Option{T::kind_key, T::kind_label}...};
    template <class... T>
    static constexpr Ops ops{kind_options<T...>,
        [](const void* v) { return static_cast<int>(static_cast<const std::variant<T...>*>(v)->index()); },
        [](void* v, int kind) {
            int k = 0;
            static_cast<void>(((k++ == kind && (*static_cast<std::variant<T...>*>(v) = T{}, true)) || ...));
        },
        [](void* v) {
            return std::visit([](auto& held) { return GroupRef(held); }, *static_cast<std::variant<T...>*>(v));
        },
        [](int kind, FieldVisitor& v) {
            int k = 0;
            static_cast<void>(((k++ == kind && (T{}.describe(v), true)) || ...));
        }};
};

class FieldVisitor {
  public:
    virtual ~FieldVisitor() = default;

    // what descriptions say, in the order in which the fields stand
    template <Kind K> void quantity(Quantity<K>& q, const QuantitySpec& spec) { meet(q, K, std::nullopt, spec); }
    template <Order O> void quantity(MotionQuantity<O>& q, const QuantitySpec& spec) {
        const bool rotary = motion_.rotary && !(O == Order::force && motion_.linear_force);
        meet(q, motion_kind(O, rotary), O, spec);
    }
    void samples(Samples& s, const SamplesSpec& spec) { on_samples(s, spec, here(spec.key)); }
    void attachment(Attachment& a, const AttachmentSpec& spec) { on_attachment(a, spec, here(spec.key)); }
    void text(std::string& s, const TextSpec& spec) { on_text(s, spec, here(spec.key)); }
    template <class E> void choice(E& e, const ChoiceSpec& spec) { meet(ChoiceRef(e), spec); }
    void flag(bool& b, const FlagSpec& spec) {
        Place place = here(spec.key);
        place.active = has(spec.needs);
        on_flag(b, spec, place);
    }
    template <class T> void group(T& t, const GroupSpec& spec) {
        on_group(GroupRef(t), spec, here(spec.key, spec.serves));
    }
    template <class List> void list(List& items, const ListSpec& spec) {
        on_list(ListRef(items), spec, here(spec.key, spec.serves));
    }
    void list_of(ListRef items, const ListSpec& spec) { on_list(items, spec, here(spec.key, spec.serves)); }
    template <class... T> void variant(std::variant<T...>& v, const GroupSpec& spec) {
        on_variant(VariantRef(v), spec, here(spec.key, spec.serves));
    }
    /// What follows in this group and below belongs to an axis that moves so.
    void motion(const Motion& m) { motion_ = m; }

  protected:
    /// How a field stands where it is met.
    struct Place {
        const char* key;
        need::Bits serves = need::everything;  ///< `need` bits
        bool active = true;                    ///< false where another choice makes the field meaningless
        Kind kind = Kind::illegal;             ///< of a quantity
        std::optional<Order> order;            ///< of a quantity along the axis or about it
        const QuantitySpec* written = nullptr; ///< before the motion of the axis had its say
    };

    explicit FieldVisitor(std::string path = "") : path_(std::move(path)) {}
    FieldVisitor(const FieldVisitor&) = default;
    FieldVisitor& operator=(const FieldVisitor&) = default;

    virtual void on_quantity(QuantityBase&, const QuantitySpec&, const Place&) {}
    virtual void on_samples(Samples&, const SamplesSpec&, const Place&) {}
    virtual void on_attachment(Attachment&, const AttachmentSpec&, const Place&) {}
    virtual void on_text(std::string&, const TextSpec&, const Place&) {}
    virtual void on_choice(ChoiceRef, const ChoiceSpec&, const Place&) {}
    virtual void on_flag(bool&, const FlagSpec&, const Place&) {}
    // these three go inside, unless a visitor has reasons of its own
    virtual void on_group(GroupRef group, const GroupSpec&, const Place& place) { enter(place, group); }
    virtual void on_list(ListRef list, const ListSpec&, const Place& place) { enter(place, list); }
    virtual void on_variant(VariantRef variant, const GroupSpec&, const Place& place) { enter(place, variant.held()); }

    /// Whether to go into what is there now; `path` says where that is.
    virtual bool enters() { return true; }
    /// Whether fields are written through this visitor; else lists are looked at as they are shared.
    virtual bool writes() const { return false; }

    const std::string& path() const { return path_; } ///< JSON pointer of the group that is open
    std::string path_of(const Place& place) const { return path_ + "/" + place.key; }
    int depth() const { return depth_; }

    using Work = std::function<void()>;
    /// Goes inside; `after` is done while it is still open.
    void enter(const Place& place, const GroupRef& group, const Work& after = {});
    void enter(const Place& place, const ListRef& list); ///< and into every entry
    void enter_entry(const ListRef& list, std::size_t i, const Work& after = {});
    /// Does this as if inside of it.
    void within(const Place& place, const Work& work);

  private:
    std::string path_;
    int depth_ = 0;
    Motion motion_;
    need::Bits serves_ = need::everything;

    Place here(const char* key, need::Bits serves = 0) const {
        return {.key = key, .serves = serves ? serves : serves_};
    }
    bool has(unsigned needs) const { return (needs & motion_.has) == needs; }
    void meet(QuantityBase& q, Kind kind, std::optional<Order> order, const QuantitySpec& spec);
    void meet(ChoiceRef choice, const ChoiceSpec& spec);
    template <class F> void inside(std::string_view key, need::Bits serves, F&& describe);
};

/// Goes over something that is only looked at: visitors that do not write keep their hands off it.
template <class T> void look_over(const T& t, FieldVisitor& v) { const_cast<T&>(t).describe(v); }

/// Mass, price and provenance, which every part has.
template <class From>
void describe_trade(FieldVisitor& v, Quantity<Kind::mass>& mass, Quantity<Kind::number>& price, From& provenance) {
    QuantitySpec s = optional_quantity(
        "mass", "Mass", "kg", 1e5, "Of the part.", left_empty::not_asked("not shown"), "m", need::record);
    s.rare = true;
    v.quantity(mass, s);
    s = optional_quantity("price", "Price", "1", 1e7, "In the currency of the project.",
        left_empty::not_asked("not shown"), "", need::record);
    s.rare = true;
    s.range.open_min = false;
    v.quantity(price, s);
    v.group(provenance, provenance_spec);
}

} // namespace fulmox
