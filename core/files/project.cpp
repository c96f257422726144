#include "core/files/project.h"

#include "core/files/document.h"
#include "core/files/upgrade.h"
#include "core/model/validate.h"
#include "core/model/walk.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <set>

namespace fulmox {

namespace {

constexpr std::size_t most_extra = 1000; // unknown members of one object that are kept

std::string type_name(const Json& j) {
    if (j.is_number()) return "the number " + j.dump();
    if (j.is_string()) return "the text \"" + j.get<std::string>().substr(0, 40) + "\"";
    return j.is_null()      ? "null"
           : j.is_boolean() ? (j.get<bool>() ? "true" : "false")
           : j.is_array()   ? "a list"
                            : "an object";
}

std::string options_text(std::span<const Option> options) {
    std::string out;
    for (const Option& o : options) out += (out.empty() ? "\"" : ", \"") + std::string(o.key) + "\"";
    return out;
}

// Numbers separated by blanks; what is not one, or nothing.
std::string numbers_of(std::string_view text, std::vector<double>& out) {
    const char* at = text.data();
    const char* end = at + text.size();
    for (;;) {
        while (at != end && (*at == ' ' || *at == '\n')) ++at;
        if (at == end) return {};
        double v = 0;
        const auto [next, error] = std::from_chars(at, end, v);
        if (error != std::errc() || !std::isfinite(v)) return "\"" + std::string(at, std::min(end, at + 20)) + "\"";
        out.push_back(v);
        at = next;
    }
}

// Letters to add, leave out, change or swap with their neighbour to make one word of the other (optimal string
// alignment).
std::size_t misspelling(std::string_view a, std::string_view b) {
    if (a.size() > 64 || b.size() > 64) return 64;
    std::array<std::array<std::size_t, 65>, 65> d;
    for (std::size_t i = 0; i <= a.size(); ++i)
        for (std::size_t j = 0; j <= b.size(); ++j) {
            if (i == 0 || j == 0) {
                d[i][j] = i + j;
                continue;
            }
            d[i][j] = std::min({d[i - 1][j] + 1, d[i][j - 1] + 1, d[i - 1][j - 1] + (a[i - 1] != b[j - 1])});
            if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                d[i][j] = std::min(d[i][j], d[i - 2][j - 2] + 1);
        }
    return d[a.size()][b.size()];
}

class Reader : public FieldVisitor {
  public:
    Reader(const JsonDocument& d, Problems& problems, bool& lossy) : d_(d), problems_(problems), lossy_(lossy) {}

    template <class T> void read(T& whole) {
        object_ = &d_.root;
        whole.describe(*this);
        keep_unknown(whole.extra);
    }

  private:
    const JsonDocument& d_;
    const Json* object_ = nullptr; // whose members are being read
    Problems& problems_;
    bool& lossy_;
    std::set<std::string, std::less<>> known_; // members of it that the description has named

    bool writes() const override { return true; }

    void on_quantity(QuantityBase& q, const QuantitySpec& spec, const Place& place) override {
        q = QuantityBase{};
        const Json* j = member(spec.key);
        if (!j) return;
        const std::string path = path_of(place);
        if (j->is_object()) {
            read_standing(q, *j, path, spec.label);
            j = j->contains("value") ? &(*j)["value"] : nullptr;
            if (!j) {
                lost(path, spec.label, "found an object without \"value\"; allowed is a text such as \"10 mm\"");
                return;
            }
        }
        std::string text;
        if (j->is_string()) {
            text = j->get<std::string>();
        } else if (j->is_number()) {
            text = j->dump(); // "lead": 10 and "lead": "10" mean the same
        } else {
            lost(path, spec.label,
                "found " + type_name(*j) + "; a quantity is a text with its unit, such as \"10 " +
                    std::string(std::string_view(spec.unit) == "1" ? "" : spec.unit) + "\"");
            return;
        }
        q.text = text;
        if (const auto r = read_quantity(text, place.kind, spec_unit(spec, place.kind))) {
            q.text = with_unit(text, *r);
            if (q.text != text)
                problems_.push_back({Severity::suspicious, path, spec.label,
                    "found " + text + " without a unit; it is read as " + q.text, d_.line(path)});
            q.si = r->si;
            q.tolerance = r->tolerance;
            q.unit = r->unit;
        }
        // validate() reports what could not be read; here only the text is kept
    }
    void on_samples(Samples& s, const SamplesSpec& spec, const Place& place) override {
        s = Samples{nullptr, spec.columns};
        const Json* j = member(spec.key);
        if (!j) return;
        const std::string path = path_of(place);
        auto numbers = std::make_shared<std::vector<double>>();
        std::string wrong;
        if (j->is_string()) {
            wrong = numbers_of(j->get_ref<const std::string&>(), *numbers);
        } else if (j->is_array()) {
            for (const Json& n : *j) {
                if (!n.is_number() || !std::isfinite(n.get<double>())) {
                    wrong = type_name(n);
                    break;
                }
                numbers->push_back(n.get<double>());
            }
        } else {
            wrong = type_name(*j);
        }
        if (wrong.empty() && (numbers->size() % spec.columns != 0 || numbers->size() / spec.columns > spec.most))
            wrong = std::to_string(numbers->size()) + " numbers";
        if (!wrong.empty()) {
            lost(path, spec.label,
                "found " + wrong + "; allowed is a text or a list of numbers, " + std::to_string(spec.columns) +
                    " to a row, at most " + std::to_string(spec.most) + " rows");
            return;
        }
        s.numbers = std::move(numbers);
    }
    void on_attachment(Attachment& a, const AttachmentSpec& spec, const Place& place) override {
        a = {};
        const Json* j = member(spec.key);
        if (!j) return;
        if (!j->is_string() || !is_base64(j->get_ref<const std::string&>())) {
            lost(path_of(place), spec.label, "found " + type_name(*j) + "; allowed is a text in base64");
            return;
        }
        a.base64 = std::make_shared<const std::string>(j->get_ref<const std::string&>());
        if (a.size() > spec.most) {
            lost(path_of(place), spec.label,
                "found " + std::to_string(a.size()) + " bytes; at most " + std::to_string(spec.most) + " are read");
            a = {};
        }
    }
    void on_text(std::string& s, const TextSpec& spec, const Place& place) override {
        s.clear();
        const Json* j = member(spec.key);
        if (!j) return;
        if (j->is_string())
            s = j->get<std::string>();
        else
            lost(path_of(place), spec.label, "found " + type_name(*j) + "; allowed is a text");
    }
    void on_choice(ChoiceRef choice, const ChoiceSpec& spec, const Place& place) override {
        const Json* j = member(spec.key);
        if (!j) {
            if (!spec.optional) // else it stays as a new one has it
                error(path_of(place), spec.label, std::string("missing; allowed are ") + options_text(spec.options));
            return;
        }
        for (std::size_t i = 0; i < spec.options.size(); ++i)
            if (j->is_string() && j->get_ref<const std::string&>() == spec.options[i].key) {
                choice.choose(static_cast<int>(i));
                return;
            }
        lost(path_of(place), spec.label, "found " + type_name(*j) + "; allowed are " + options_text(spec.options));
    }
    void on_flag(bool& b, const FlagSpec& spec, const Place& place) override {
        b = false;
        const Json* j = member(spec.key);
        if (!j) return;
        if (j->is_boolean())
            b = j->get<bool>();
        else
            lost(path_of(place), spec.label, "found " + type_name(*j) + "; allowed are true and false");
    }
    void on_group(GroupRef group, const GroupSpec& spec, const Place& place) override {
        static const Json empty = Json::object();
        const Json* j = member(spec.key);
        if (j && !j->is_object()) {
            lost(path_of(place), spec.label, "found " + type_name(*j) + "; allowed is an object");
            j = nullptr;
        }
        from(j ? *j : empty, false, [&] { enter(place, group, [&] { keep_unknown(group.extra()); }); });
    }
    void on_list(ListRef list, const ListSpec& spec, const Place& place) override {
        list.clear();
        const Json* j = member(spec.key);
        if (!j) return;
        if (!j->is_array()) {
            lost(path_of(place), spec.label, "found " + type_name(*j) + "; allowed is a list");
            return;
        }
        if (j->size() > spec.most) {
            lost(path_of(place), spec.label,
                "found " + std::to_string(j->size()) + " entries; allowed are at most " + std::to_string(spec.most));
            return;
        }
        for (std::size_t i = 0; i < j->size(); ++i) list.insert(i);
        within(place, [&] {
            for (std::size_t i = 0; i < j->size(); ++i) {
                const Json& entry = (*j)[i];
                if (entry.is_object())
                    from(entry, false, [&] { enter_entry(list, i, [&] { keep_unknown(list.entry(i).extra()); }); });
                else // those after it keep their places
                    lost(path() + "/" + std::to_string(i), spec.item,
                        "found " + type_name(entry) + "; allowed is an object");
            }
        });
    }
    void on_variant(VariantRef variant, const GroupSpec& spec, const Place& place) override {
        const Json* j = member(spec.key);
        const std::span<const Option> kinds = variant.kinds();
        if (!j && spec.optional) return;
        if (!j || !j->is_object()) {
            if (j)
                lost(path_of(place), spec.label, "found " + type_name(*j) + "; allowed is an object with \"kind\"");
            else
                error(path_of(place), spec.label,
                    "missing; give an object whose \"kind\" is one of " + options_text(kinds));
            return;
        }
        const std::string kind = j->contains("kind") && (*j)["kind"].is_string() ? (*j)["kind"].get<std::string>() : "";
        const auto known = std::find_if(kinds.begin(), kinds.end(), [&](const Option& o) { return kind == o.key; });
        if (known == kinds.end()) {
            lost(path_of(place) + "/kind", spec.label,
                "found \"" + kind.substr(0, 40) + "\"; allowed are " + options_text(kinds));
            return;
        }
        variant.reset(static_cast<int>(known - kinds.begin()));
        from(*j, true, [&] { enter(place, variant.held(), [&] { keep_unknown(variant.held().extra()); }); });
    }

    // What is done meanwhile reads the members of this object.
    template <class F> void from(const Json& object, bool has_kind, F&& read) {
        const Json* outer = std::exchange(object_, &object);
        auto known = std::exchange(known_, {});
        if (has_kind) known_.insert("kind");
        read();
        object_ = outer;
        known_ = std::move(known);
    }
    void keep_unknown(Extra& extra) {
        for (const auto& [key, value] : object_->items()) {
            if (known_.contains(key)) continue;
            if (extra.size() == most_extra) {
                lost(path(), "Members not known",
                    "found more than " + std::to_string(most_extra) + " of them in one object; allowed are at most " +
                        std::to_string(most_extra));
                break;
            }
            extra[key] = value.dump();
            const std::string meant = nearest(key);
            const std::string at = child_pointer(path(), key);
            if (!meant.empty() && !object_->contains(meant))
                problems_.push_back({Severity::suspicious, at, key.substr(0, 40),
                    "this member is not known and has no effect. Did you mean \"" + meant + "\"?", d_.line(at)});
        }
    }

    // The known member that a misspelled one was meant for; empty where none is near.
    std::string nearest(std::string_view key) const {
        std::string best;
        std::size_t least = 1 + std::min<std::size_t>(2, key.size() / 3);
        for (const std::string& known : known_)
            if (const std::size_t d = misspelling(key, known); d < least) {
                least = d;
                best = known;
            }
        return best;
    }
    const Json* member(const char* key) {
        known_.insert(key);
        const auto it = object_->find(key);
        return it == object_->end() ? nullptr : &*it;
    }
    void error(const std::string& path, const char* label, std::string message) {
        problems_.push_back({Severity::error, path, label, std::move(message), d_.line(path)});
    }
    void lost(const std::string& path, const char* label, std::string message) {
        lossy_ = true;
        error(path, label, std::move(message));
    }
    void read_standing(QuantityBase& q, const Json& j, const std::string& path, const char* label) {
        for (const auto& [key, value] : j.items()) {
            if (key == "value") continue;
            if (key == "note" && value.is_string()) {
                q.note = value.get<std::string>();
            } else if (key == "standing" && value.is_string()) {
                const auto given = value.get<std::string>();
                const auto it = std::find_if(
                    std::begin(standings), std::end(standings), [&given](const Option& o) { return given == o.key; });
                if (it != std::end(standings))
                    q.standing = static_cast<InputSource>(it - std::begin(standings));
                else
                    lost(child_pointer(path, key), label,
                        "found " + type_name(value) + "; allowed are " + options_text(standings));
            } else {
                lost(child_pointer(path, key), label,
                    "found an unknown member \"" + key.substr(0, 40) +
                        "\"; allowed are \"value\", \"standing\", \"note\"");
            }
        }
    }
};

class Writer : public FieldVisitor {
  public:
    explicit Writer(LongTexts& texts) : texts_(texts) {}
    Json object_of(const GroupRef& group, const char* kind = nullptr) {
        Json made = Json::object();
        Json* outer = std::exchange(out_, &made);
        const std::size_t idle_outside = std::exchange(idle_, 0);
        if (kind) made["kind"] = kind;
        group.describe(*this);
        for (const auto& [key, raw] : group.extra()) made[key] = Json::parse(raw);
        out_ = outer;
        says_nothing_ = idle_ == made.size();
        idle_ = idle_outside;
        return made;
    }

  private:
    LongTexts& texts_;
    Json* out_ = nullptr;       // the object being written
    std::size_t idle_ = 0;      // its members that say nothing: empty texts, choices and flags as they come
    bool says_nothing_ = false; // of the object written last

    void on_samples(Samples& s, const SamplesSpec& spec, const Place&) override {
        if (s.rows() == 0) return;
        // one text: a list would take a line of the file for each number
        std::string text;
        text.reserve(s.numbers->size() * 18);
        for (std::size_t i = 0; i < s.numbers->size(); ++i) {
            char digits[32];
            const auto r = std::to_chars(digits, digits + sizeof digits, (*s.numbers)[i]);
            if (i > 0) text += ' ';
            text.append(digits, r.ptr);
        }
        (*out_)[spec.key] = std::move(text);
    }
    void on_attachment(Attachment& a, const AttachmentSpec& spec, const Place&) override {
        if (!a.empty()) (*out_)[spec.key] = texts_.hold(*a.base64);
    }
    void on_quantity(QuantityBase& q, const QuantitySpec& spec, const Place&) override {
        if (q.text.empty()) return;
        if (q.standing == InputSource::assumed && q.note.empty()) {
            (*out_)[spec.key] = q.text;
            return;
        }
        Json j{{"value", q.text}};
        if (q.standing != InputSource::assumed) j["standing"] = standings[static_cast<std::size_t>(q.standing)].key;
        if (!q.note.empty()) j["note"] = q.note;
        (*out_)[spec.key] = std::move(j);
    }
    void on_text(std::string& s, const TextSpec& spec, const Place&) override {
        idle_ += s.empty();
        (*out_)[spec.key] = s;
    }
    void on_choice(ChoiceRef choice, const ChoiceSpec& spec, const Place&) override {
        idle_ += choice.chosen() == 0;
        (*out_)[spec.key] = spec.options[static_cast<std::size_t>(choice.chosen())].key;
    }
    void on_flag(bool& b, const FlagSpec& spec, const Place&) override {
        if (spec.by_itself && !b) return;
        idle_ += !b;
        (*out_)[spec.key] = b;
    }
    void on_group(GroupRef group, const GroupSpec& spec, const Place&) override {
        Json made = object_of(group);
        if (spec.sparse && says_nothing_) return;
        (*out_)[spec.key] = std::move(made);
    }
    void on_list(ListRef list, const ListSpec& spec, const Place&) override {
        Json j = Json::array();
        for (std::size_t i = 0; i < list.size(); ++i) j.push_back(object_of(list.shared_entry(i)));
        (*out_)[spec.key] = std::move(j);
    }
    void on_variant(VariantRef variant, const GroupSpec& spec, const Place&) override {
        const auto kind = static_cast<std::size_t>(variant.chosen());
        (*out_)[spec.key] = object_of(variant.held(), variant.kinds()[kind].key);
    }
};

void with_lines(Problems& problems, const JsonDocument& d) {
    for (Problem& p : problems)
        if (p.line == 0) p.line = d.line(p.path);
}

// What an axis could not take in stays with it: nothing that depends on it is known.
void hand_to_axes(Machine& machine, Problems& problems) {
    std::erase_if(problems, [&](Problem& p) {
        if (p.severity != Severity::error || !p.path.starts_with("/axes/")) return false;
        const std::size_t own = p.path.find('/', 6);
        if (own == std::string::npos) return false;
        const auto index = static_cast<std::size_t>(std::strtoul(p.path.c_str() + 6, nullptr, 10));
        if (index >= machine.axes.size()) return false;
        p.path.erase(0, own);
        machine.axes[index].unread.push_back(std::move(p));
        return true;
    });
}

Result<int, Problem> header(const JsonDocument& d, const char* format) {
    using Out = Result<int, Problem>;
    const auto no = [&](const char* path, std::string message) {
        return Out::failure({Severity::error, path, "", std::move(message), d.line(path)});
    };
    if (!d.root.is_object()) return no("", "found " + type_name(d.root) + "; a project file is a JSON object");
    if (!d.root.contains("format") || d.root["format"] != format)
        return no("/format", "found " +
                                 (d.root.contains("format") ? type_name(d.root["format"]) : std::string("nothing")) +
                                 "; allowed is \"" + format + "\"");
    if (!d.root.contains("version") || !d.root["version"].is_number_integer() || d.root["version"].get<double>() < 1 ||
        d.root["version"].get<double>() > 1e6)
        return no("/version", "found " +
                                  (d.root.contains("version") ? type_name(d.root["version"]) : std::string("nothing")) +
                                  "; allowed is a whole number from 1");
    return d.root["version"].get<int>();
}

} // namespace

Result<ProjectRead, Problem> read_project(std::string_view text) {
    using Out = Result<ProjectRead, Problem>;
    auto parsed = parse_document(text);
    if (!parsed) return Out::failure(parsed.error());
    JsonDocument& d = *parsed;
    const auto version = header(d, project_format);
    if (!version) return Out::failure(version.error());
    ProjectRead out;
    out.version = *version;
    if (*version < project_version) {
        upgrade(d, *version);
        out.upgraded = true;
        out.warning = "This file is of version " + std::to_string(*version) + "; saving writes version " +
                      std::to_string(project_version) + ".";
    }
    d.root.erase("format");
    d.root.erase("version");
    bool lossy = false;
    Reader(d, out.problems, lossy).read(out.machine);
    if (!d.root.contains("policies")) {
        out.machine.policies = shipped_policies();
        for (std::size_t i = 0; i < out.machine.axes.size(); ++i) // as it was called before
            if (std::as_const(out.machine.axes)[i].policy == "High-bandwidth servo")
                out.machine.axes[i].policy = "Stiff drivetrain, high ratio";
    }
    if (!d.root.contains("materials")) out.machine.materials = shipped_materials();
    for (std::size_t i = 0; i < out.machine.axes.size(); ++i)
        if (const Axis& a = std::as_const(out.machine.axes)[i]; a.coupling.there() != a.coupling.in_place ||
                                                                a.brake.there() != a.brake.in_place ||
                                                                a.has_drive() != a.drive.in_place)
            stay_in_place(out.machine.axes[i]);
    hand_to_axes(out.machine, out.problems);
    for (Problem& p : validate(out.machine)) out.problems.push_back(std::move(p));
    with_lines(out.problems, d);
    out.lines = std::move(d.lines);
    if (*version > project_version) {
        out.read_only = true;
        out.warning = "This file is of version " + std::to_string(*version) + ", newer than this program knows (" +
                      std::to_string(project_version) +
                      "). It is open for reading; saving over it could lose what is new.";
    } else if (lossy) {
        out.read_only = true;
        out.warning = "Some parts of this file could not be kept. It is open for reading, so that saving cannot lose "
                      "them; the list says where.";
    }
    return out;
}

std::string write_project(const Machine& machine) {
    return dump_with_long_texts([&](LongTexts& texts) {
        Json out{{"format", project_format}, {"version", project_version}};
        // the writer only looks
        out.update(Writer(texts).object_of(GroupRef(const_cast<Machine&>(machine))));
        return out;
    });
}

namespace {

// `whole`: what is missing is an error too, not only what is wrong.
CatalogueRead catalogue_of(JsonDocument& d, const PartKind& kind, ListRef parts, bool whole) {
    struct Catalogue {
        const PartKind& kind;
        ListRef parts;
        std::string name{};
        Extra extra{};
        void describe(FieldVisitor& v) {
            v.text(name, {"name", "Catalogue", ""});
            v.list_of(parts, {kind.list, kind.lists, kind.key, "", most_parts});
        }
    };
    upgrade_motors(d);
    Catalogue c{kind, parts};
    CatalogueRead out;
    bool lossy = false;
    Reader(d, out.problems, lossy).read(c);
    out.name = std::move(c.name);
    for (std::size_t i = 0; i < parts.size(); ++i)
        for (Problem& p :
            check_quantities(parts.entry(i), std::string("/") + kind.list + "/" + std::to_string(i), whole))
            out.problems.push_back(std::move(p));
    with_lines(out.problems, d);
    return out;
}

} // namespace

Result<CatalogueRead, Problem> read_catalogue(std::string_view text, const PartKind& kind, ListRef parts) {
    using Out = Result<CatalogueRead, Problem>;
    auto parsed = parse_document(text);
    if (!parsed) return Out::failure(parsed.error());
    const auto version = header(*parsed, "fulmox-catalogue");
    if (!version) return Out::failure(version.error());
    return catalogue_of(*parsed, kind, parts, true);
}

Result<PartsRead, Problem> read_parts(std::string_view text) {
    using Out = Result<PartsRead, Problem>;
    struct Catalogue {
        PartLists& parts;
        std::string& name;
        Extra extra{};
        void describe(FieldVisitor& v) {
            v.text(name, {"name", "Catalogue", ""});
            for (const PartKind& kind : part_kinds())
                v.list_of(kind.own(parts), {kind.list, kind.lists, kind.key, "", most_parts});
        }
    };
    auto parsed = parse_document(text);
    if (!parsed) return Out::failure(parsed.error());
    JsonDocument& d = *parsed;
    if (const auto version = header(d, "fulmox-catalogue"); !version) return Out::failure(version.error());
    d.root.erase("format");
    d.root.erase("version");
    upgrade_motors(d);
    PartsRead out;
    Catalogue c{out.parts, out.name};
    bool lossy = false;
    Reader(d, out.problems, lossy).read(c);
    for (Problem& p : check_parts(out.parts)) out.problems.push_back(std::move(p));
    with_lines(out.problems, d);
    return out;
}

std::string write_parts(const std::string& name, const PartLists& parts) {
    return dump_with_long_texts([&](LongTexts& texts) {
        Json out{{"format", "fulmox-catalogue"}, {"version", 2}, {"name", name}};
        for (const PartKind& kind : part_kinds()) {
            const ListRef own = kind.own(const_cast<PartLists&>(parts)); // the writer only looks
            if (own.size() == 0) continue;
            Json list = Json::array();
            for (std::size_t i = 0; i < own.size(); ++i) list.push_back(Writer(texts).object_of(own.shared_entry(i)));
            out[kind.list] = std::move(list);
        }
        return out;
    });
}

Result<MotorCatalogue, Problem> read_sheets(std::string_view text) {
    using Out = Result<MotorCatalogue, Problem>;
    auto parsed = parse_document(text);
    if (!parsed) return Out::failure(parsed.error());
    JsonDocument& d = *parsed;
    if (!d.root.is_array() && !d.root.is_object())
        return Out::failure(
            {Severity::error, "", "", "found " + type_name(d.root) + "; allowed is a datasheet or a list", 1});
    if (d.root.is_array() || !d.root.contains("motors")) {
        // one sheet is a list of one; the lines go along
        const std::string head = d.root.is_array() ? "/motors" : "/motors/0";
        std::unordered_map<std::string, int> lines;
        for (const auto& [pointer, line] : d.lines) lines[head + pointer] = line;
        d.lines = std::move(lines);
        Json list = d.root.is_array() ? std::move(d.root) : Json::array({std::move(d.root)});
        d.root = Json::object();
        d.root["motors"] = std::move(list);
    }
    MotorCatalogue out;
    CatalogueRead read = catalogue_of(d, part_kind("motor"), ListRef(out.motors), false);
    out.name = std::move(read.name);
    out.problems = std::move(read.problems);
    // rated as IEC 60034-1 has it where the sheet says nothing
    const Motor usual;
    for (Motor& m : out.motors) {
        if (m.rated_ambient.text.empty()) m.rated_ambient = usual.rated_ambient;
        if (m.winding_limit.text.empty()) m.winding_limit = usual.winding_limit;
    }
    return out;
}

std::string write_motors(const std::string& name, const std::vector<Motor>& motors) {
    return dump_with_long_texts([&](LongTexts& texts) {
        Json list = Json::array();
        // the writer only looks
        for (const Motor& m : motors) list.push_back(Writer(texts).object_of(GroupRef(const_cast<Motor&>(m))));
        return Json{{"format", "fulmox-catalogue"}, {"version", 2}, {"name", name}, {"motors", std::move(list)}};
    });
}

Result<MotorCatalogue, Problem> read_motors(std::string_view text) {
    MotorCatalogue out;
    auto read = read_catalogue(text, part_kind("motor"), ListRef(out.motors));
    if (!read) return Result<MotorCatalogue, Problem>::failure(read.error());
    out.name = std::move(read->name);
    out.problems = std::move(read->problems);
    return out;
}

} // namespace fulmox
