#include "core/files/part_columns.h"

#include "core/files/text_rows.h"
#include "core/quantity/columns.h"

#include <array>
#include <cctype>
#include <map>
#include <set>
#include <utility>

namespace fulmox {

std::string plain_words(std::string_view s) {
    std::string out;
    for (const char c : s)
        if (const auto u = static_cast<unsigned char>(c); std::isalnum(u) || u >= 0x80)
            out += static_cast<char>(std::tolower(u));
    return out;
}

std::vector<std::string> words_of(std::string_view s) {
    std::vector<std::string> out(1);
    for (const char c : s)
        if (const auto u = static_cast<unsigned char>(c); std::isalnum(u) || u >= 0x80)
            out.back() += static_cast<char>(std::tolower(u));
        else if (!out.back().empty())
            out.emplace_back();
    if (out.back().empty()) out.pop_back();
    return out;
}

bool says_nothing(std::string_view cell) {
    static constexpr std::string_view open[] = {"", "-", "–", "—", "n/a", "N/A", "n.a.", "?", "none"};
    return std::find(std::begin(open), std::end(open), cell) != std::end(open);
}

std::string last_key(const std::string& path) { return path.substr(path.rfind('/') + 1); }

std::span<const Option> variant_kinds(const PartKind& kind) {
    PartLists part;
    kind.own(part).insert(0);
    for (const FieldRef& f : walk(kind.own(part).entry(0)))
        if (f.variant) return f.variant.kinds();
    return {};
}

FieldRefs blank_fields(const PartKind& kind, PartLists& part, std::size_t variant) {
    kind.own(part).insert(0);
    const GroupRef entry = kind.own(part).entry(0);
    for (const FieldRef& f : walk(entry))
        if (f.variant) f.choose(static_cast<int>(variant));
    return walk(entry);
}

namespace {

constexpr std::size_t most_columns = 1000;
constexpr int looked_at_lines = 200, heading_among = 20; // lines

// Other words of the trade for a field; common practice, no source.
struct Synonym {
    const char *field, *words;
};
constexpr Synonym synonyms[] = {
    {"name", "part|partnumber|partno|articlenumber|article|item|itemnumber|ordercode|orderno|model|modelnumber|"
             "designation|typecode|id|gearbox|product"},
    {"mass", "weight|massofpart"},
    {"price", "cost|listprice|unitprice|netprice"},
    {"ratio", "gearratio|reduction|reductionratio|i"},
    {"inertia", "massmomentofinertia|momentofinertia|rotorinertia|j"},
    {"rotor_inertia", "inertia|massmomentofinertia|momentofinertia|j|jm"},
    {"rated_torque", "nominaltorque|nominaloutputtorque|ratedoutputtorque|continuoustorque|t2n"},
    {"allowable_torque", "ratedtorque|nominaltorque|maxtorque|maximumtorque|peaktorque|tkn|permissibletorque"},
    {"static_torque", "holdingtorque|staticholdingtorque|brakingtorque|torque|brakestatictorque"},
    {"dynamic_torque", "dynamictorque|dynamicbrakingtorque|slippingtorque"},
    {"apply_time", "applytime|closingtime|engagetime|engagingtime|timetoapply"},
    {"release_time", "releasetime|openingtime|timetorelease"},
    {"stop_energy", "energyperstop|brakingenergy|switchingenergy|frictionwork"},
    {"peak_torque", "accelerationtorque|maxaccelerationtorque|maximumtorque|maxtorque|t2b|t2a"},
    {"emergency_torque", "emergencystoptorque|estoptorque|t2not|t2e"},
    {"nominal_speed", "nominalinputspeed|ratedinputspeed|ratedspeed|n1n|meaninputspeed"},
    {"top_speed", "maxspeed|maximumspeed|maxinputspeed|maximuminputspeed|n1max|speedlimit"},
    {"max_speed", "topspeed|maximumspeed|maximalspeed|maxrpm"},
    {"backlash", "torsionalbacklash|play"},
    {"stiffness", "torsionalstiffness|torsionalrigidity|rigidity"},
    {"life", "servicelife|lifehours"},
    {"radial_rating", "radialload|maxradialforce|radialforce|overhungload|f2r"},
    {"axial_rating", "axialload|maxaxialforce|axialforce|thrustload|f2a"},
    {"tilting_rating", "tiltingmoment|momentload|m2k"},
    {"input_bore", "bore|shaftbore|motorshaft|inputshaftdiameter"},
    {"output_shaft", "outputshaftdiameter|shaftdiameter"},
    {"shaft_diameter", "shaft|shaftdia|outputshaft"},
    {"continuous_current", "ratedcurrent|nominalcurrent|outputcurrent|continuousoutputcurrent"},
    {"peak_current", "maxcurrent|maximumcurrent|peakoutputcurrent"},
    {"voltage", "outputvoltage|coilvoltage|ratedvoltage"},
    {"current", "ratedcurrent|nominalcurrent"},
    {"power", "ratedpower|nominalpower|coilpower"},
    {"efficiency", "eta|efficiencyatfullload"},
    {"no_load_torque", "noloadrunningtorque|idletorque|t012"},
    {"note", "remark|remarks|comment|comments|notes"},
    {"origin", "source|catalogue|catalog|datasheet"},
    {"series", "family|productfamily|range"},
    {"frame", "flange|flangesize|framesize|size"},
    {"most_current", "maxphasecurrent|phasecurrent"},
};

std::vector<KnownField> fields_of(const PartKind& kind) {
    std::vector<KnownField> out;
    std::set<std::string> seen;
    for (std::size_t variant = 0; variant < variants(kind); ++variant) {
        PartLists part;
        for (const FieldRef& f : blank_fields(kind, part, variant)) {
            const bool kept = f.type == FieldRef::Type::quantity || f.type == FieldRef::Type::text ||
                              f.type == FieldRef::Type::choice || f.type == FieldRef::Type::flag || f.variant;
            const std::string key = last_key(f.path);
            if (!kept || is_placed(kind, key) || !seen.insert(f.path).second) continue;
            if (f.path == "/listing/file" || f.path == "/listing/line" || f.path == "/listing/date") continue;
            KnownField field;
            field.path = f.path;
            field.label = f.path == "/name" ? "Name" : f.label();
            field.key = key;
            field.type = f.type;
            if (f.type == FieldRef::Type::quantity) {
                field.kind = f.kind;
                field.unit = f.quantity_spec.unit;
                field.symbol = f.quantity_spec.symbol;
            }
            field.names = {plain_words(key), plain_words(field.label), plain_words(f.path)};
            if (f.variant) field.names.push_back("kind");
            for (const Synonym& s : synonyms)
                if (key == s.field) {
                    std::string_view rest = s.words;
                    while (!rest.empty()) {
                        const std::size_t bar = std::min(rest.find('|'), rest.size());
                        field.alike.emplace_back(rest.substr(0, bar));
                        rest.remove_prefix(std::min(bar + 1, rest.size()));
                    }
                }
            field.plain_symbol = plain_words(field.symbol);
            field.label_words = words_of(field.label).size();
            field.words = words_of(field.label + " " + key);
            std::sort(field.words.begin(), field.words.end());
            field.words.erase(std::unique(field.words.begin(), field.words.end()), field.words.end());
            out.push_back(std::move(field));
        }
    }
    return out;
}

} // namespace

const std::vector<KnownField>& known_fields(const PartKind& kind) {
    static const std::map<std::string, std::vector<KnownField>> all = [] {
        std::map<std::string, std::vector<KnownField>> m;
        for (const PartKind& k : part_kinds()) m.emplace(k.key, fields_of(k));
        return m;
    }();
    return all.at(kind.key);
}

namespace {

// Plain names of what the axis sets and no maker.
const std::set<std::string>& placed_names(const PartKind& kind) {
    static const std::map<std::string, std::set<std::string>> all = [] {
        std::map<std::string, std::set<std::string>> m;
        for (const PartKind& k : part_kinds()) {
            PartLists part;
            for (const FieldRef& f : blank_fields(k, part, 0))
                if (const std::string key = last_key(f.path); is_placed(k, key)) {
                    m[k.key].insert(plain_words(key));
                    m[k.key].insert(plain_words(f.label()));
                }
            m[k.key];
        }
        return m;
    }();
    return all.at(kind.key);
}

// The unit that a heading names, of this kind; nothing where it names another dimension or none at all.
const Unit* unit_for(const std::string& text, Kind kind) {
    if (text.empty() || kind == Kind::illegal) return nullptr;
    const Unit* u = find_unit(text == "-" ? "1" : text, kind);
    return u && u->kind == kind ? u : nullptr;
}

// A heading as it is compared with many fields.
class Heading {
  public:
    Heading(const ColumnName& said, const std::string& whole)
        : name(plain_words(said.name)), all(plain_words(whole)), words(words_of(said.name)),
          has_unit(!said.unit.empty() && find_unit(said.unit)), unit_(said.unit) {}
    bool fits(Kind kind) const {
        if (unit_.empty()) return false;
        const auto [at, first] = fits_.try_emplace(kind, false);
        if (first) at->second = unit_for(unit_, kind) != nullptr;
        return at->second;
    }

    std::string name, all;
    std::vector<std::string> words;
    bool has_unit;

  private:
    std::string unit_;
    mutable std::map<Kind, bool> fits_;
};

// 0 to 100: how well a heading says a field.
double likeness(const Heading& heading, const KnownField& field) {
    const bool quantity = field.type == FieldRef::Type::quantity;
    const bool has_unit = heading.has_unit, fits = quantity && heading.fits(field.kind);
    if (has_unit && !fits) return 0;
    const auto says = [&](const std::vector<std::string>& names) {
        return std::any_of(names.begin(), names.end(),
            [&](const std::string& n) { return n == heading.name || (!has_unit && n == heading.all); });
    };
    if (says(field.names)) return 100;
    const std::string& symbol = field.plain_symbol;
    if (!symbol.empty() && symbol == heading.name && fits) return 92;
    if (says(field.alike)) return 90;
    if (symbol.size() > 1 && symbol == heading.name) return 80;
    const std::vector<std::string>& words = heading.words;
    // "Max. acceleration torque T2B"
    if (symbol.size() > 1 && fits && std::find(words.begin(), words.end(), symbol) != words.end()) return 85;
    std::size_t common = 0;
    for (const std::string& w : words) common += std::binary_search(field.words.begin(), field.words.end(), w);
    if (common == 0 || words.empty()) return 0;
    const double dice = 2.0 * static_cast<double>(common) / static_cast<double>(words.size() + field.label_words);
    // a dimension that agrees says as much as a word
    return dice > 0.6 && (fits || (!quantity && dice >= 0.75)) ? 40 + 30 * std::min(1.0, dice) : 0;
}

struct Matched {
    std::vector<PartColumn> columns;
    double score = 0;
};

Matched match(const PartKind& kind, const std::vector<std::string>& headings, const std::vector<std::string>& units) {
    const std::vector<KnownField>& fields = known_fields(kind);
    Matched out;
    std::vector<ColumnName> names;
    for (std::size_t c = 0; c < headings.size(); ++c) {
        const std::string_view heading = trim(headings[c]);
        ColumnName n = column_name(
            heading.starts_with('/')
                ? heading.substr(heading.find('[') == std::string_view::npos ? heading.size() : heading.find('['))
                : heading);
        if (heading.starts_with('/')) n.name = std::string(trim(heading.substr(0, heading.find('['))));
        if (n.name.empty()) n.name = std::string(heading);
        // "currents in" are no inches
        if (heading.find_first_of("[(/") == std::string_view::npos && !n.unit.empty())
            for (const KnownField& f : fields)
                if (const std::string all = plain_words(heading);
                    std::find(f.names.begin(), f.names.end(), all) != f.names.end())
                    n = {std::string(heading), ""};
        if (c < units.size() && !trim(units[c]).empty()) n.unit = std::string(trim(units[c]));
        while (!n.unit.empty() && (n.unit.front() == '[' || n.unit.front() == '(')) n.unit.erase(0, 1);
        while (!n.unit.empty() && (n.unit.back() == ']' || n.unit.back() == ')')) n.unit.pop_back();
        out.columns.push_back({headings[c], "", "", n.unit, true, ""});
        names.push_back(std::move(n));
    }
    const std::set<std::string>& placed = placed_names(kind);
    std::vector<bool> taken(fields.size()), of_axis;
    for (const ColumnName& n : names) of_axis.push_back(placed.contains(plain_words(n.name)));
    struct Pair {
        double score;
        std::size_t column, field;
    };
    std::vector<Pair> pairs;
    for (std::size_t c = 0; c < headings.size(); ++c) {
        if (of_axis[c]) continue;
        const Heading heading(names[c], headings[c]);
        for (std::size_t f = 0; f < fields.size(); ++f)
            if (const double s = likeness(heading, fields[f]); s > 0) pairs.push_back({s, c, f});
    }
    std::stable_sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) { return a.score > b.score; });
    const auto give = [&](std::size_t c, std::size_t f, double score) {
        PartColumn& column = out.columns[c];
        taken[f] = true;
        column.field = fields[f].path;
        column.label = fields[f].label;
        column.sure = score >= 80;
        out.score += score;
    };
    for (const Pair& p : pairs)
        if (out.columns[p.column].field.empty() && !taken[p.field]) give(p.column, p.field, p.score);
    // a dimension that only one field of the part has
    for (std::size_t c = 0; c < headings.size(); ++c) {
        const Unit* u = find_unit(names[c].unit);
        if (!out.columns[c].field.empty() || of_axis[c] || !u || u->kind == Kind::number) continue;
        std::size_t of = fields.size(), how_many = 0;
        for (std::size_t f = 0; f < fields.size(); ++f)
            if (fields[f].kind != Kind::illegal && unit_for(names[c].unit, fields[f].kind)) ++how_many, of = f;
        const Heading bare({names[c].name, ""}, names[c].name);
        const bool says_other =
            std::any_of(fields.begin(), fields.end(), [&](const KnownField& f) { return likeness(bare, f) >= 80; });
        if (!says_other && how_many == 1 && !taken[of]) give(c, of, 20);
    }
    for (std::size_t c = 0; c < headings.size(); ++c) {
        PartColumn& column = out.columns[c];
        if (column.field.empty()) {
            column.wrong = of_axis[c]                  ? "the axis sets it, and no maker"
                           : trim(headings[c]).empty() ? "it has no heading"
                                                       : "no field of a " + lower(kind.label) + " is called so";
            // said plainly where name and dimension speak against one another
            const Heading bare({names[c].name, ""}, names[c].name);
            for (const KnownField& f : fields)
                if (f.kind != Kind::illegal && !names[c].unit.empty() && !unit_for(names[c].unit, f.kind) &&
                    likeness(bare, f) >= 80) {
                    column.wrong =
                        "found \"" + names[c].unit + "\"; allowed for " + lower(f.label) + " are " + some_units(f.kind);
                    break;
                }
            continue;
        }
        const auto f =
            std::find_if(fields.begin(), fields.end(), [&](const KnownField& x) { return x.path == column.field; });
        if (f->kind == Kind::illegal || f->kind == Kind::number) {
            const Unit* u = unit_for(column.unit, f->kind);
            column.unit = u ? std::string(u->symbol) : std::string();
        } else if (const Unit* u = unit_for(column.unit, f->kind)) {
            column.unit = std::string(u->symbol);
        } else {
            if (!column.unit.empty()) {
                column.wrong =
                    "found \"" + column.unit + "\"; allowed for " + lower(f->label) + " are " + some_units(f->kind);
                column.field.clear();
                column.label.clear();
            }
            column.unit.clear();
        }
    }
    return out;
}
// A line of nothing but units under the heading.
bool all_units(const std::vector<std::string>& cells) {
    std::size_t units = 0;
    for (const std::string& c : cells) {
        std::string_view t = trim(c);
        while (!t.empty() && (t.front() == '[' || t.front() == '(')) t.remove_prefix(1);
        while (!t.empty() && (t.back() == ']' || t.back() == ')')) t.remove_suffix(1);
        if (says_nothing(t)) continue;
        if (!find_unit(t)) return false;
        ++units;
    }
    return units > 0;
}

// A choice none of whose words stands below its heading: "Type" over the names of types.
bool no_choice(const PartTable& table, std::size_t column, const PartKind& kind) {
    if (table.sample.empty()) return false;
    std::set<std::string> allowed;
    bool choice = false;
    for (std::size_t variant = 0; variant < variants(kind); ++variant) {
        PartLists part;
        for (const FieldRef& f : blank_fields(kind, part, variant)) {
            if (f.path != table.columns[column].field || (!f.variant && f.type != FieldRef::Type::choice)) continue;
            choice = true;
            for (const Option& o : f.variant ? f.variant.kinds() : f.choice_spec.options) {
                allowed.insert(plain_words(o.key));
                allowed.insert(plain_words(o.label));
            }
        }
    }
    return choice && std::none_of(table.sample.begin(), table.sample.end(), [&](const auto& row) {
        return column < row.size() && (says_nothing(trim(row[column])) || allowed.contains(plain_words(row[column])));
    });
}

// No heading says which column is the name: the first whose cells are words, each another, is taken for it.
void guess_name(PartTable& table) {
    const auto is_name = [](const PartColumn& c) { return c.field == "/name"; };
    if (table.sample.empty() || std::any_of(table.columns.begin(), table.columns.end(), is_name)) return;
    const std::set<std::string>& placed = placed_names(part_kind(table.kind));
    for (std::size_t c = 0; c < table.columns.size(); ++c) {
        PartColumn& column = table.columns[c];
        if ((!column.field.empty() && !no_choice(table, c, part_kind(table.kind))) || trim(column.heading).empty() ||
            placed.contains(plain_words(column.heading)))
            continue;
        if (!column_name(column.heading).unit.empty()) continue;
        std::set<std::string_view> seen;
        const bool words = std::all_of(table.sample.begin(), table.sample.end(), [&](const auto& row) {
            const std::string_view cell = c < row.size() ? trim(row[c]) : std::string_view();
            const bool letters = std::any_of(
                cell.begin(), cell.end(), [](char x) { return std::isalpha(static_cast<unsigned char>(x)) != 0; });
            const std::size_t behind = cell.find_first_not_of("+-0123456789.,");
            const bool measure =
                behind != 0 && behind != std::string_view::npos && find_unit(trim(cell.substr(behind)));
            return letters && !measure && seen.insert(cell).second;
        });
        if (!words) continue;
        column.field = "/name";
        column.label = "Name";
        column.sure = false;
        column.wrong.clear();
        return;
    }
}

char separator_among(const std::string& line) {
    std::array<std::size_t, 4> counts{};
    constexpr std::string_view signs = "\t;,|";
    bool quoted = false;
    for (const char c : line) {
        if (c == '"') quoted = !quoted;
        if (const std::size_t i = signs.find(c); !quoted && i != std::string_view::npos) ++counts[i];
    }
    // a tab or a semicolon is there for no other reason
    for (const std::size_t i : {0u, 1u})
        if (counts[i] > 0) return signs[i];
    return counts[3] > counts[2] ? '|' : ',';
}
} // namespace

std::vector<PartField> part_fields(const PartKind& kind) {
    const std::vector<KnownField>& known = known_fields(kind);
    return {known.begin(), known.end()};
}

PartTable look_at_part_table(std::istream& in, const std::string& kind_key) {
    PartTable table;
    TextLines lines(in);
    std::vector<std::pair<int, std::string>> head;
    std::string line;
    while (static_cast<int>(head.size()) < looked_at_lines && lines.next(line))
        if (!trim(line).empty() && trim(line).front() != '#') head.emplace_back(lines.number(), line);
    table.encoding = lines.encoding();
    struct Best {
        double score = 0;
        std::size_t line = 0, next = 0;
        const PartKind* kind = nullptr;
        Matched matched;
        char separator = ',';
    } best;
    // the row that begins in this line of the head, and the line after it
    const auto row_at = [&](std::size_t i, char separator) {
        TextRows rows(separator);
        std::size_t end = i;
        while (end < head.size() && end < i + 5 && !rows.add(head[end++].second)) {}
        for (std::string& c : rows.cells()) std::replace(c.begin(), c.end(), '\n', ' ');
        return std::pair(std::move(rows.cells()), end);
    };
    for (std::size_t i = 0; i < head.size() && i < heading_among; ++i) {
        // a heading in quotes may go over several lines
        std::string whole = head[i].second;
        for (std::size_t k = i + 1; k < head.size() && k < i + 5 && std::count(whole.begin(), whole.end(), '"') % 2;
             ++k)
            whole += "\n" + head[k].second;
        const char separator = separator_among(whole);
        const auto [cells, end] = row_at(i, separator);
        if (cells.size() < 2 || cells.size() > most_columns) continue;
        std::vector<std::string> units;
        std::size_t next = end;
        if (end < head.size())
            if (auto [under, after] = row_at(end, separator); all_units(under)) {
                units = std::move(under);
                next = after;
            }
        for (const PartKind& kind : part_kinds()) {
            if (!kind_key.empty() && kind_key != kind.key) continue;
            Matched m = match(kind, cells, units);
            if (m.score > best.score) best = {m.score, i, next, &kind, std::move(m), separator};
        }
    }
    if (!best.kind) return table;
    table.kind = best.kind->key;
    table.separator = best.separator;
    table.heading_line = head[best.line].first;
    table.columns = std::move(best.matched.columns);
    const std::size_t first = best.next;
    table.first_line = first < head.size() ? head[first].first : head.back().first + 1;
    std::size_t commas = 0, points = 0;
    TextRows rows(table.separator);
    for (std::size_t i = first; i < head.size(); ++i) {
        if (!rows.add(head[i].second)) continue;
        for (const std::string& c : rows.cells()) {
            const std::size_t at = c.find_last_of(".,");
            if (at == std::string::npos || at == 0 || !std::isdigit(static_cast<unsigned char>(c[at - 1]))) continue;
            const std::size_t end = c.find_first_not_of("0123456789", at + 1);
            const std::size_t digits = (end == std::string::npos ? c.size() : end) - at - 1;
            const bool both = c.find(c[at] == ',' ? '.' : ',') < at;
            // three digits may be thousands; where no comma parts the columns, one in a number is a decimal sign
            const bool open = digits == 3 && !both && !(c[at] == ',' && table.separator != ',');
            if (digits > 0 && !open) (c[at] == ',' ? commas : points) += 1;
        }
        if (table.sample.size() < 20) table.sample.push_back(rows.cells());
    }
    table.decimal_comma = commas > points;
    guess_name(table);
    return table;
}

void match_columns(PartTable& table) {
    if (table.kind.empty()) return;
    std::vector<std::string> headings, units;
    for (const PartColumn& c : table.columns) {
        headings.push_back(c.heading);
        units.emplace_back();
    }
    table.columns = match(part_kind(table.kind), headings, units).columns;
    guess_name(table);
}

} // namespace fulmox
