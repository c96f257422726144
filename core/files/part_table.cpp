#include "core/files/part_table.h"

#include "core/model/walk.h"
#include "core/quantity/columns.h"
#include "core/quantity/format.h"
#include "core/quantity/spelling.h"
#include "core/report/table.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>
#include <cmath>
#include <csv.h>
#include <iconv.h>
#include <map>
#include <optional>
#include <set>
#include <sstream>
#include <utility>

namespace fulmox {

namespace {

constexpr std::size_t chunk = 1 << 20, longest_line = 1 << 20, most_columns = 1000, most_problems = 1000;
constexpr int looked_at_lines = 200, longest_row = 20; // lines

// Text of any of the encodings, as iconv knows them, made UTF-8; what cannot be is left out.
class Decoder {
  public:
    explicit Decoder(const char* from) : handle_(iconv_open("UTF-8", from)) {}
    ~Decoder() {
        if (open()) iconv_close(handle_);
    }
    Decoder(const Decoder&) = delete;
    Decoder& operator=(const Decoder&) = delete;
    bool open() const { return handle_ != reinterpret_cast<iconv_t>(-1); }

    /// Appends to `out`; the bytes at the end that are no whole letter yet stay for the next call.
    void decode(std::string_view bytes, std::string& out) {
        rest_ += bytes;
        char* in = rest_.data();
        std::size_t left = rest_.size();
        std::array<char, 1 << 14> buffer;
        while (left > 0) {
            char* to = buffer.data();
            std::size_t room = buffer.size();
            const std::size_t done = iconv(handle_, &in, &left, &to, &room);
            out.append(buffer.data(), to);
            if (done != static_cast<std::size_t>(-1)) continue;
            if (errno == E2BIG) continue;
            if (errno == EINVAL) break; // half a letter
            out += "\xEF\xBF\xBD";      // no letter at all
            ++in;
            --left;
        }
        rest_.erase(0, rest_.size() - left);
    }

  private:
    iconv_t handle_;
    std::string rest_;
};

// Lines of a stream of bytes as UTF-8, of which a chunk is held at a time.
class TextLines {
  public:
    explicit TextLines(std::istream& in) : in_(in) {
        std::string head = more();
        const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(head[i]); };
        std::size_t even = 0, odd = 0;
        const std::size_t looked = std::min<std::size_t>(head.size(), 4096);
        for (std::size_t i = 0; i < looked; ++i) (i % 2 ? odd : even) += head[i] == 0;
        if (head.size() >= 2 && byte(0) == 0xFF && byte(1) == 0xFE)
            wide("UTF-16LE", head, 2);
        else if (head.size() >= 2 && byte(0) == 0xFE && byte(1) == 0xFF)
            wide("UTF-16BE", head, 2);
        else if (odd * 4 > looked && even * 8 < odd)
            wide("UTF-16LE", head, 0);
        else if (even * 4 > looked && odd * 8 < even)
            wide("UTF-16BE", head, 0);
        else
            text_ = head.starts_with("\xEF\xBB\xBF") ? head.substr(3) : std::move(head);
    }

    /// False at the end. A line over `longest_line` is empty, and `too_long` says so.
    bool next(std::string& line) {
        too_long_ = false;
        for (;;) {
            const std::size_t end = text_.find_first_of("\r\n", looked_);
            if (end != std::string::npos && (text_[end] == '\n' || end + 1 < text_.size() || ended_)) {
                take(line, end);
                at_ = end + (text_[end] == '\r' && end + 1 < text_.size() && text_[end + 1] == '\n' ? 2 : 1);
                looked_ = at_;
                return true;
            }
            looked_ = end == std::string::npos ? text_.size() : end;
            if (ended_) {
                if (at_ >= text_.size()) return false;
                take(line, text_.size());
                at_ = looked_ = text_.size();
                return true;
            }
            text_.erase(0, at_);
            looked_ -= at_;
            at_ = 0;
            if (text_.size() > longest_line) { // its end is looked for without keeping it
                over_ = true;
                text_.clear();
                looked_ = 0;
            }
            std::string got = more();
            if (got.empty())
                ended_ = true;
            else if (decoder_)
                decoder_->decode(got, text_);
            else
                text_ += got;
        }
    }
    int number() const { return number_; }
    bool too_long() const { return too_long_; }
    std::size_t bytes() const { return bytes_; }
    std::string encoding() const { return !wide_.empty() ? wide_ : single_ ? "Windows-1252" : "UTF-8"; }

  private:
    std::istream& in_;
    std::string text_, wide_;
    std::optional<Decoder> decoder_;
    std::size_t at_ = 0, looked_ = 0, bytes_ = 0;
    int number_ = 0;
    bool ended_ = false, single_ = false, over_ = false, too_long_ = false;

    std::string more() {
        std::string got(chunk, '\0');
        in_.read(got.data(), static_cast<std::streamsize>(got.size()));
        got.resize(static_cast<std::size_t>(in_.gcount()));
        bytes_ += got.size();
        return got;
    }
    void wide(const char* encoding, const std::string& head, std::size_t mark) {
        wide_ = encoding;
        decoder_.emplace(encoding);
        decoder_->decode(std::string_view(head).substr(mark), text_);
    }
    void take(std::string& line, std::size_t end) {
        ++number_;
        too_long_ = std::exchange(over_, false) || end - at_ > longest_line;
        line.assign(too_long_ ? std::string_view() : std::string_view(text_).substr(at_, end - at_));
        if (!decoder_ && !is_utf8(line)) {
            single_ = true;
            Decoder d("WINDOWS-1252");
            std::string out;
            d.decode(line, out);
            line = std::move(out);
        }
    }
    static bool is_utf8(const std::string& s) {
        for (std::size_t i = 0; i < s.size(); ++i) {
            const auto c = static_cast<unsigned char>(s[i]);
            if (c < 0x80) continue;
            const int more = c >= 0xF0 && c < 0xF5 ? 3 : c >= 0xE0 ? 2 : c >= 0xC2 ? 1 : 0;
            if (more == 0 || c >= 0xF5 || i + static_cast<std::size_t>(more) >= s.size()) return false;
            for (int k = 0; k < more; ++k)
                if ((static_cast<unsigned char>(s[++i]) & 0xC0) != 0x80) return false;
        }
        return true;
    }
};

// Rows of cells from lines. A cell in quotes may go over several lines.
class Rows {
  public:
    explicit Rows(char separator) : separator_(separator) { restart(); }
    ~Rows() { csv_free(&parser_); }
    Rows(const Rows&) = delete;
    Rows& operator=(const Rows&) = delete;

    /// Takes in a line; true where it ends a row.
    bool add(const std::string& line) {
        if (lines_ == 0) cells_.clear();
        ++lines_;
        done_ = false;
        csv_parse(&parser_, line.data(), line.size(), cell, row, this);
        csv_parse(&parser_, "\n", 1, cell, row, this);
        if (done_ || !cells_begun()) {
            lines_ = 0;
            return done_;
        }
        return false;
    }
    bool within_quotes() const { return lines_ > 0; }
    int lines() const { return lines_; }
    std::vector<std::string>& cells() { return cells_; }
    void give_up() {
        csv_free(&parser_);
        restart();
        cells_.clear();
        lines_ = 0;
    }

  private:
    csv_parser parser_{};
    char separator_;
    std::vector<std::string> cells_;
    int lines_ = 0;
    bool done_ = false;

    void restart() {
        csv_init(&parser_, 0);
        csv_set_delim(&parser_, static_cast<unsigned char>(separator_));
    }
    // within a cell in quotes the library has begun a row that it has not ended
    bool cells_begun() const { return parser_.pstate != 0 || !cells_.empty(); }
    static void cell(void* text, std::size_t size, void* self) {
        static_cast<Rows*>(self)->cells_.emplace_back(static_cast<const char*>(text), size);
    }
    static void row(int, void* self) { static_cast<Rows*>(self)->done_ = true; }
};

// Small letters and digits only; letters beyond ASCII stay.
std::string plain(std::string_view s) {
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

bool blank(const std::vector<std::string>& cells) {
    return std::all_of(cells.begin(), cells.end(), [](const std::string& c) { return trim(c).empty(); });
}

// Of what lists leave open.
bool nothing(std::string_view cell) {
    static constexpr std::string_view open[] = {"", "-", "–", "—", "n/a", "N/A", "n.a.", "?", "none"};
    return std::find(std::begin(open), std::end(open), cell) != std::end(open);
}

std::string last_of(const std::string& path) { return path.substr(path.rfind('/') + 1); }

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
    {"driving_bore", "bore1|d1|boremotorside"},
    {"driven_bore", "bore2|d2|boreloadside"},
    {"continuous_current", "ratedcurrent|nominalcurrent|outputcurrent|continuousoutputcurrent"},
    {"peak_current", "maxcurrent|maximumcurrent|peakoutputcurrent"},
    {"bus_voltage", "dcbus|buslink"},
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

struct Field : PartField {
    std::string key;
    FieldRef::Type type = FieldRef::Type::quantity;
    std::vector<std::string> names; // plain, that say it for sure
    std::vector<std::string> alike;
    std::vector<std::string> words; // of label and key
};

class VariantChooser : public FieldVisitor {
  public:
    explicit VariantChooser(int kind) : kind_(kind) {}

  private:
    int kind_;
    bool writes() const override { return true; }
    void on_variant(VariantRef variant, const GroupSpec&, const Place&) override { variant.choose(kind_); }
};

// The kinds that a variant within the part can be; one empty choice where there is none.
std::size_t variants(const PartKind& kind) {
    PartLists blank_part;
    kind.own(blank_part).insert(0);
    for (const FieldRef& f : walk(kind.own(blank_part).entry(0)))
        if (f.variant) return f.variant.kinds().size();
    return 1;
}

FieldRefs blank_fields(const PartKind& kind, PartLists& part, std::size_t variant) {
    kind.own(part).insert(0);
    const GroupRef entry = kind.own(part).entry(0);
    for (const FieldRef& f : walk(entry))
        if (f.variant) f.choose(static_cast<int>(variant));
    return walk(entry);
}

std::vector<Field> fields_of(const PartKind& kind) {
    std::vector<Field> out;
    std::set<std::string> seen;
    for (std::size_t variant = 0; variant < variants(kind); ++variant) {
        PartLists part;
        for (const FieldRef& f : blank_fields(kind, part, variant)) {
            const bool kept = f.type == FieldRef::Type::quantity || f.type == FieldRef::Type::text ||
                              f.type == FieldRef::Type::choice || f.type == FieldRef::Type::flag || f.variant;
            const std::string key = last_of(f.path);
            if (!kept || is_placed(kind, key) || !seen.insert(f.path).second) continue;
            if (f.path == "/listing/file" || f.path == "/listing/line" || f.path == "/listing/date") continue;
            Field field;
            field.path = f.path;
            field.label = f.path == "/name" ? "Name" : f.label();
            field.key = key;
            field.type = f.type;
            if (f.type == FieldRef::Type::quantity) {
                field.kind = f.kind;
                field.unit = f.quantity_spec.unit;
                field.symbol = f.quantity_spec.symbol;
            }
            field.names = {plain(key), plain(field.label), plain(f.path)};
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
            field.words = words_of(field.label + " " + key);
            std::sort(field.words.begin(), field.words.end());
            field.words.erase(std::unique(field.words.begin(), field.words.end()), field.words.end());
            out.push_back(std::move(field));
        }
    }
    return out;
}

const std::vector<Field>& known_fields(const PartKind& kind) {
    static const std::map<std::string, std::vector<Field>> all = [] {
        std::map<std::string, std::vector<Field>> m;
        for (const PartKind& k : part_kinds()) m.emplace(k.key, fields_of(k));
        return m;
    }();
    return all.at(kind.key);
}

// Plain names of what the axis sets and no maker.
const std::set<std::string>& placed_names(const PartKind& kind) {
    static const std::map<std::string, std::set<std::string>> all = [] {
        std::map<std::string, std::set<std::string>> m;
        for (const PartKind& k : part_kinds()) {
            PartLists part;
            for (const FieldRef& f : blank_fields(k, part, 0))
                if (const std::string key = last_of(f.path); is_placed(k, key)) {
                    m[k.key].insert(plain(key));
                    m[k.key].insert(plain(f.label()));
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

// 0 to 100: how well a heading says a field.
double likeness(const ColumnName& heading, const std::string& whole, const Field& field) {
    const bool quantity = field.type == FieldRef::Type::quantity;
    const bool has_unit = !heading.unit.empty() && find_unit(heading.unit);
    const bool fits = quantity && unit_for(heading.unit, field.kind);
    if (has_unit && quantity && !fits) return 0;
    if (has_unit && !quantity) return 0;
    const std::string name = plain(heading.name), all = plain(whole);
    const auto says = [&](const std::vector<std::string>& names) {
        return std::any_of(
            names.begin(), names.end(), [&](const std::string& n) { return n == name || (!has_unit && n == all); });
    };
    if (says(field.names)) return 100;
    const std::string symbol = plain(field.symbol);
    if (!symbol.empty() && symbol == name && fits) return 92;
    if (says(field.alike)) return 90;
    if (!symbol.empty() && symbol == name && symbol.size() > 1) return 80;
    const std::vector<std::string> words = words_of(heading.name);
    // "Max. acceleration torque T2B"
    if (symbol.size() > 1 && fits && std::find(words.begin(), words.end(), symbol) != words.end()) return 85;
    std::size_t common = 0;
    for (const std::string& w : words) common += std::binary_search(field.words.begin(), field.words.end(), w);
    if (common == 0 || words.empty()) return 0;
    const double dice =
        2.0 * static_cast<double>(common) / static_cast<double>(words.size() + words_of(field.label).size());
    // a dimension that agrees says as much as a word
    return dice > 0.6 && (fits || (!quantity && dice >= 0.75)) ? 40 + 30 * std::min(1.0, dice) : 0;
}

struct Matched {
    std::vector<PartColumn> columns;
    double score = 0;
};

Matched match(const PartKind& kind, const std::vector<std::string>& headings, const std::vector<std::string>& units) {
    const std::vector<Field>& fields = known_fields(kind);
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
            for (const Field& f : fields)
                if (const std::string all = plain(heading);
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
    for (const ColumnName& n : names) of_axis.push_back(placed.contains(plain(n.name)));
    struct Pair {
        double score;
        std::size_t column, field;
    };
    std::vector<Pair> pairs;
    for (std::size_t c = 0; c < headings.size(); ++c)
        for (std::size_t f = 0; f < fields.size() && !of_axis[c]; ++f)
            if (const double s = likeness(names[c], headings[c], fields[f]); s > 0) pairs.push_back({s, c, f});
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
        ColumnName bare = names[c];
        bare.unit.clear();
        const bool says_other = std::any_of(
            fields.begin(), fields.end(), [&](const Field& f) { return likeness(bare, bare.name, f) >= 80; });
        if (!says_other && how_many == 1 && !taken[of]) give(c, of, 20);
    }
    for (std::size_t c = 0; c < headings.size(); ++c) {
        PartColumn& column = out.columns[c];
        if (column.field.empty()) {
            column.wrong = of_axis[c]                  ? "the axis sets it, and no maker"
                           : trim(headings[c]).empty() ? "it has no heading"
                                                       : "no field of a " + lower(kind.label) + " is called so";
            // said plainly where name and dimension speak against one another
            for (const Field& f : fields)
                if (f.kind != Kind::illegal && !names[c].unit.empty() && !unit_for(names[c].unit, f.kind)) {
                    ColumnName bare = names[c];
                    bare.unit.clear();
                    if (likeness(bare, names[c].name, f) >= 80) {
                        column.wrong = "found \"" + names[c].unit + "\"; allowed for " + lower(f.label) + " are " +
                                       some_units(f.kind);
                        break;
                    }
                }
            continue;
        }
        const auto f =
            std::find_if(fields.begin(), fields.end(), [&](const Field& x) { return x.path == column.field; });
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

bool grouped(std::string_view digits, char by) {
    // "1.234.567": groups of three
    const std::size_t first = digits.find(by);
    if (first == std::string_view::npos || first == 0 || first > 3) return false;
    for (std::size_t i = 0; i < digits.size(); ++i) {
        const bool sign = i >= first && (i - first) % 4 == 0;
        if (sign ? digits[i] != by : !std::isdigit(static_cast<unsigned char>(digits[i]))) return false;
    }
    return (digits.size() - first) % 4 == 0;
}

// The number at the head of a cell with a decimal point and without signs between thousands.
void mend_number(std::string& cell, bool decimal_comma) {
    std::size_t begin = !cell.empty() && (cell[0] == '+' || cell[0] == '-') ? 1 : 0, end = begin;
    while (end < cell.size() &&
           (std::isdigit(static_cast<unsigned char>(cell[end])) || cell[end] == '.' || cell[end] == ','))
        ++end;
    while (end > begin && (cell[end - 1] == '.' || cell[end - 1] == ',')) --end;
    const std::string_view digits = std::string_view(cell).substr(begin, end - begin);
    const char decimal = decimal_comma ? ',' : '.', other = decimal_comma ? '.' : ',';
    if (digits.find(',') == std::string_view::npos && (!decimal_comma || digits.find('.') == std::string_view::npos))
        return;
    const std::size_t point = digits.find(decimal);
    const std::string_view whole = digits.substr(0, point);
    std::string out;
    if (whole.find(other) != std::string_view::npos) {
        if (!grouped(whole, other)) return; // read as it stands, or refused
        for (const char c : whole)
            if (c != other) out += c;
    } else {
        out = whole;
    }
    if (point != std::string_view::npos) {
        if (digits.find_first_of(".,", point + 1) != std::string_view::npos) return;
        out += '.';
        out += digits.substr(point + 1);
    }
    cell.replace(begin, end - begin, out);
}

// Goes over a part in the order of its description and lays a cell into each field that a column was taken for.
class Filler : public FieldVisitor {
  public:
    Filler(const PartTable& table, const PartKind& kind) : table_(table), kind_(kind) {
        for (std::size_t c = 0; c < table.columns.size(); ++c)
            if (!table.columns[c].field.empty()) columns_.emplace(table.columns[c].field, c);
        for (std::size_t v = 0; v < variants(kind); ++v) {
            PartLists part;
            std::vector<int> order;
            for (const FieldRef& f : blank_fields(kind, part, v)) {
                if (f.type == FieldRef::Type::group || f.type == FieldRef::Type::list ||
                    f.type == FieldRef::Type::samples || f.type == FieldRef::Type::attachment)
                    continue;
                const auto it = columns_.find(f.path);
                order.push_back(it == columns_.end() ? -1 : static_cast<int>(it->second));
                if (it != columns_.end()) used_[v].insert(it->second);
            }
            orders_.push_back(std::move(order));
        }
        for (const PartColumn& c : table.columns) units_.push_back(c.unit.empty() ? nullptr : find_unit(c.unit));
    }

    /// Lays the row into a fresh part. `wrong` is called with severity, column (−1: a field without one), label and
    /// message.
    template <class Wrong>
    bool fill(const GroupRef& part, std::vector<std::string>& cells, int variant, Wrong&& wrong) {
        cells_ = &cells;
        order_ = &orders_[static_cast<std::size_t>(variant)];
        at_ = 0;
        good_ = true;
        says_ = [&](Severity s, int column, const char* label, std::string message) {
            good_ = good_ && s != Severity::error;
            wrong(s, column, label, std::move(message));
        };
        part.describe(*this);
        for (std::size_t c = 0; c < cells.size() && c < table_.columns.size(); ++c)
            if (!table_.columns[c].field.empty() && !used_[static_cast<std::size_t>(variant)].contains(c) &&
                !nothing(trim(cells[c])))
                says_(Severity::error, static_cast<int>(c), table_.columns[c].label.c_str(),
                    "found \"" + cells[c].substr(0, 40) + "\"; this kind of motor has no such field");
        return good_;
    }
    /// Column of the variant's kind; −1: there is none.
    int variant_column() const {
        for (const Field& f : known_fields(kind_))
            if (f.type == FieldRef::Type::variant)
                if (const auto it = columns_.find(f.path); it != columns_.end()) return static_cast<int>(it->second);
        return -1;
    }

  private:
    const PartTable& table_;
    const PartKind& kind_;
    std::map<std::string, std::size_t> columns_;
    std::vector<std::vector<int>> orders_; // for each variant: the column of every field in the order of description
    std::map<std::size_t, std::set<std::size_t>> used_;
    std::vector<const Unit*> units_;
    std::map<int, std::map<std::string, int, std::less<>>> choices_; // what words of a column have been found to mean
    std::vector<std::string>* cells_ = nullptr;
    const std::vector<int>* order_ = nullptr;
    std::size_t at_ = 0;
    bool good_ = true;
    std::function<void(Severity, int, const char*, std::string)> says_;

    bool writes() const override { return true; }
    int column() { return (*order_)[at_++]; }
    std::string_view cell(int column) const {
        return column < 0 || static_cast<std::size_t>(column) >= cells_->size()
                   ? std::string_view()
                   : trim((*cells_)[static_cast<std::size_t>(column)]);
    }
    void on_quantity(QuantityBase& q, const QuantitySpec& spec, const Place& place) override {
        const int c = column();
        const std::string_view text = cell(c);
        if (nothing(text)) {
            if (place.active && q.text.empty() && spec.required)
                says_(Severity::error, c, spec.label, "it is missing; give a value, " + range_text(spec, false));
            return;
        }
        std::string value(text);
        mend_number(value, table_.decimal_comma);
        const Unit* unit = units_[static_cast<std::size_t>(c)];
        const Unit& bare = unit ? *unit : spec_unit(spec, place.kind);
        double number = 0;
        const auto plain_number = std::from_chars(value.data(), value.data() + value.size(), number);
        if (plain_number.ec == std::errc() && std::isfinite(number) &&
            plain_number.ptr == value.data() + value.size() && (unit || place.kind == Kind::number)) {
            q.si = to_si(number, bare);
            q.unit = &bare;
            q.text = bare.symbol == "1" ? value : value + " " + std::string(bare.symbol);
        } else if (const auto r = read_quantity(value, place.kind, bare); !r) {
            return says_(
                Severity::error, c, spec.label, "\"" + std::string(text.substr(0, 40)) + "\": " + r.error().message);
        } else if (r->bare && !unit && place.kind != Kind::number) {
            return says_(Severity::error, c, spec.label,
                "found \"" + std::string(text.substr(0, 40)) + "\" without a unit; allowed are " +
                    some_units(place.kind) + ", here or in the heading");
        } else {
            q.si = r->si;
            q.tolerance = r->tolerance;
            q.unit = r->unit;
            q.text = with_unit(value, *r);
        }
        q.standing = Standing::datasheet;
        if (auto f = fault(spec, place.kind, q)) says_(f->first, c, spec.label, std::move(f->second));
    }
    void on_text(std::string& s, const TextSpec&, const Place&) override {
        if (const int c = column(); c >= 0) s = std::string(cell(c));
    }
    void on_choice(ChoiceRef choice, const ChoiceSpec& spec, const Place&) override {
        const int c = column();
        if (const std::string_view text = cell(c); !nothing(text))
            choose(text, spec.options, c, spec.label, [&](int i) { choice.choose(i); });
    }
    void on_flag(bool& b, const FlagSpec& spec, const Place&) override {
        const int c = column();
        const std::string text = lower(cell(c));
        if (nothing(text)) return;
        if (text == "yes" || text == "true" || text == "1" || text == "x")
            b = true;
        else if (text != "no" && text != "false" && text != "0")
            says_(Severity::error, c, spec.label, "found \"" + text.substr(0, 40) + "\"; allowed are yes and no");
    }
    void on_variant(VariantRef variant, const GroupSpec&, const Place& place) override {
        static_cast<void>(column()); // chosen before
        enter(place, variant.held());
    }

  public:
    /// The option that a text means: its key, its label, or words that one label alone has.
    static std::optional<std::size_t> option(std::string_view text, std::span<const Option> options) {
        const std::string said = plain(text);
        std::optional<std::size_t> found;
        for (std::size_t i = 0; i < options.size(); ++i)
            if (said == plain(options[i].key) || said == plain(options[i].label)) return i;
        const std::vector<std::string> words = words_of(text);
        for (std::size_t i = 0; i < options.size(); ++i) {
            const std::vector<std::string> label = words_of(options[i].label);
            const bool all = !words.empty() && std::all_of(words.begin(), words.end(), [&](const std::string& w) {
                return std::find(label.begin(), label.end(), w) != label.end();
            });
            if (!all) continue;
            if (found) return std::nullopt;
            found = i;
        }
        return found;
    }
    template <class Take>
    void choose(std::string_view text, std::span<const Option> options, int c, const char* label, Take&& take) {
        // the same few words come in every row
        auto& seen = choices_[c];
        if (const auto it = seen.find(text); it != seen.end()) return take(it->second);
        if (const auto i = option(text, options)) {
            seen.emplace(text, static_cast<int>(*i));
            return take(static_cast<int>(*i));
        }
        std::string all;
        for (const Option& o : options)
            if (*o.key) all += (all.empty() ? "\"" : ", \"") + std::string(o.key) + "\"";
        says_(Severity::error, c, label, "found \"" + std::string(text.substr(0, 40)) + "\"; allowed are " + all);
    }
};

std::span<const Option> variant_kinds(const PartKind& kind) {
    PartLists part;
    kind.own(part).insert(0);
    for (const FieldRef& f : walk(kind.own(part).entry(0)))
        if (f.variant) return f.variant.kinds();
    return {};
}

// A line of nothing but units under the heading.
bool all_units(const std::vector<std::string>& cells) {
    std::size_t units = 0;
    for (const std::string& c : cells) {
        std::string_view t = trim(c);
        while (!t.empty() && (t.front() == '[' || t.front() == '(')) t.remove_prefix(1);
        while (!t.empty() && (t.back() == ']' || t.back() == ')')) t.remove_suffix(1);
        if (nothing(t)) continue;
        if (!find_unit(t)) return false;
        ++units;
    }
    return units > 0;
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
    const std::vector<Field>& known = known_fields(kind);
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
        Rows rows(separator);
        std::size_t end = i;
        while (end < head.size() && end < i + 5 && !rows.add(head[end++].second)) {}
        for (std::string& c : rows.cells()) std::replace(c.begin(), c.end(), '\n', ' ');
        return std::pair(std::move(rows.cells()), end);
    };
    for (std::size_t i = 0; i < head.size() && i < 20; ++i) {
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
    Rows rows(table.separator);
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
}

PartTableRead read_part_table(std::istream& in, const PartTable& table, const std::string& file,
    const std::string& date, const std::function<bool(std::size_t)>& progress) {
    PartTableRead out;
    const auto add = [&](Problem p) {
        if (out.problems.size() < most_problems)
            out.problems.push_back(std::move(p));
        else
            ++out.more_problems;
    };
    if (table.kind.empty() || table.heading_line == 0) {
        add({Severity::error, "", "Heading",
            "no line of headings was found among the first 20; allowed is a line that "
            "names at least two fields of one kind of part, as \"name, ratio, rated torque [N·m]\""});
        return out;
    }
    const PartKind& kind = part_kind(table.kind);
    const auto column_words = [&](int c) {
        return c < 0 ? std::string()
                     : "column " + std::to_string(c + 1) + ", \"" + table.columns[static_cast<std::size_t>(c)].heading +
                           "\"";
    };
    for (std::size_t c = 0; c < table.columns.size(); ++c)
        if (table.columns[c].field.empty() && !table.columns[c].wrong.empty() &&
            !trim(table.columns[c].heading).empty())
            add({Severity::suspicious, column_words(static_cast<int>(c)), "", "passed over: " + table.columns[c].wrong,
                table.heading_line});
    if (std::none_of(
            table.columns.begin(), table.columns.end(), [](const PartColumn& c) { return c.field == "/name"; })) {
        add({Severity::error, "", "Name",
            "no column is the name of the part; allowed are headings such as \"name\" or \"part number\"",
            table.heading_line});
        return out;
    }
    const auto column_of = [&](const std::string& key) {
        for (std::size_t c = 0; c < table.columns.size(); ++c)
            if (last_of(table.columns[c].field) == key) return static_cast<int>(c);
        return -1;
    };
    Filler filler(table, kind);
    const std::span<const Option> variant_options = variant_kinds(kind);
    const int variant_at = filler.variant_column();
    PartLists one;
    std::map<std::string, int> names;
    const ListRef list = kind.own(out.parts);
    bool full = false;
    const auto take_row = [&](std::vector<std::string>& cells, int line) {
        if (blank(cells)) return;
        ++out.rows;
        const auto wrong = [&](Severity s, int column, const char* label, std::string message) {
            add({s, column_words(column), label, std::move(message), line});
        };
        const auto refuse = [&](std::string field, std::string message, std::string column = "") {
            add({Severity::error, std::move(column), std::move(field), std::move(message), line});
            ++out.left_out;
        };
        if (full) {
            ++out.left_out;
            return;
        }
        if (cells.size() > table.columns.size() &&
            std::any_of(cells.begin() + static_cast<std::ptrdiff_t>(table.columns.size()), cells.end(),
                [](const std::string& c) { return !trim(c).empty(); }))
            return refuse("Row", "found " + std::to_string(cells.size()) + " cells; the heading has " +
                                     std::to_string(table.columns.size()));
        if (cells.size() < table.columns.size() && cells.size() * 2 < table.columns.size())
            return refuse("Row", "it ends after " + std::to_string(cells.size()) + " cells; the heading has " +
                                     std::to_string(table.columns.size()));
        const std::size_t at = list.size();
        list.insert(at);
        const GroupRef part = list.entry(at);
        int variant = 0;
        bool known = true;
        if (variant_at >= 0 && static_cast<std::size_t>(variant_at) < cells.size()) {
            const std::string_view said = trim(cells[static_cast<std::size_t>(variant_at)]);
            if (const auto v = Filler::option(said, variant_options))
                variant = static_cast<int>(*v);
            else
                known = false;
        }
        if (!known) {
            std::string all;
            for (const Option& o : variant_options) all += (all.empty() ? "\"" : ", \"") + std::string(o.key) + "\"";
            list.erase(at);
            return refuse("Kind",
                "found \"" + cells[static_cast<std::size_t>(variant_at)].substr(0, 40) + "\"; allowed are " + all,
                column_words(variant_at));
        }
        if (variant > 0) {
            VariantChooser chooser(variant);
            part.describe(chooser);
        }
        const bool good = filler.fill(part, cells, variant, wrong);
        const std::string& name = kind.name(out.parts, at);
        bool keep = good;
        if (good)
            for (Problem& p : part_contradictions(kind, out.parts, at)) {
                keep = keep && p.severity != Severity::error;
                wrong(p.severity, column_of(last_of(p.path)), p.field.c_str(), std::move(p.message));
            }
        if (name.empty()) {
            add({Severity::error, "", kind.label, "it has no name; a catalogue knows parts by it", line});
            keep = false;
        } else if (keep) {
            const auto [first, added] = names.emplace(name, line);
            if (!added) {
                add({Severity::error, "", kind.label,
                    "\"" + name.substr(0, 60) + "\" is the name of two parts, the other stands in line " +
                        std::to_string(first->second) + "; names must differ",
                    line});
                keep = false;
            }
        }
        if (!keep) {
            list.erase(at);
            ++out.left_out;
            return;
        }
        Provenance& from = kind.provenance(out.parts, at);
        from.file = file;
        from.line = std::to_string(line);
        from.date = date;
        if (list.size() == most_parts) full = true;
    };
    TextLines lines(in);
    Rows rows(table.separator);
    std::string line;
    std::vector<std::string> held; // lines of a row that has not ended
    int begun = 0;
    std::size_t told = 0;
    const auto feed = [&](const std::string& text, int number) {
        if (!rows.within_quotes()) {
            if (trim(text).empty() || trim(text).front() == '#') return;
            begun = number;
            held.clear();
        }
        held.push_back(text);
        if (rows.add(text)) take_row(rows.cells(), begun);
    };
    const auto unclosed = [&] {
        add({Severity::error, "", "Row",
            "a quotation mark opens a cell that does not end within " + std::to_string(longest_row) + " lines", begun});
        ++out.rows;
        ++out.left_out;
        rows.give_up();
    };
    while (lines.next(line)) {
        if (lines.number() < table.first_line) continue;
        if (lines.too_long()) {
            add({Severity::error, "", "Line", "it is longer than " + std::to_string(longest_line / 1024) + " kB",
                lines.number()});
            ++out.rows;
            ++out.left_out;
            continue;
        }
        feed(line, lines.number());
        if (rows.lines() >= longest_row) {
            // the row is given up, and what was taken for a part of it is looked at anew
            const std::vector<std::string> again(held.begin() + 1, held.end());
            const int from = begun + 1;
            unclosed();
            for (std::size_t i = 0; i < again.size(); ++i) feed(again[i], from + static_cast<int>(i));
        }
        if (progress && lines.bytes() != told) {
            told = lines.bytes();
            if (!progress(told)) {
                out.cancelled = true;
                return out;
            }
        }
    }
    while (rows.within_quotes()) {
        const std::vector<std::string> again(held.begin() + 1, held.end());
        const int from = begun + 1;
        unclosed();
        for (std::size_t i = 0; i < again.size(); ++i) feed(again[i], from + static_cast<int>(i));
    }
    if (full && out.rows - out.left_out == most_parts && out.left_out > 0)
        add({Severity::error, "", kind.lists,
            "the file holds more than " + std::to_string(most_parts) +
                " that could be kept; those after them are left out",
            0});
    return out;
}

Result<PartsRead, Problem> read_any_parts(std::string_view bytes, const std::string& file, const std::string& date) {
    const std::size_t first = bytes.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
    if (first != std::string_view::npos && bytes[first] == '{') return read_parts(bytes.substr(first == 3 ? 3 : 0));
    std::istringstream in{std::string(bytes)};
    const PartTable table = look_at_part_table(in);
    in.clear();
    in.seekg(0);
    PartTableRead read = read_part_table(in, table, file, date);
    if (table.kind.empty()) return Result<PartsRead, Problem>::failure(read.problems.front());
    return PartsRead{file, std::move(read.parts), std::move(read.problems)};
}

std::vector<PartsCount> count_parts(const PartLists& parts) {
    std::vector<PartsCount> out;
    for (const PartKind& kind : part_kinds()) {
        PartsCount c{&kind, kind.own(const_cast<PartLists&>(parts)).size(), 0, 0}; // only looked at
        for (std::size_t i = 0; i < c.parts; ++i) {
            c.without_price += !kind.price(parts, i).given();
            c.without_mass += !kind.mass(parts, i).given();
        }
        if (c.parts > 0) out.push_back(c);
    }
    return out;
}

std::string part_table_csv(const PartKind& kind, const PartLists& parts) {
    const ListRef list = kind.own(const_cast<PartLists&>(parts)); // only looked at
    struct Column {
        std::string heading, unit;
        bool one_unit = true;
        std::vector<std::string> cells;
    };
    std::map<std::string, Column> columns;
    std::vector<std::string> order;
    const std::vector<Field>& known = known_fields(kind);
    for (const Field& f : known) order.push_back(f.path);
    order.insert(order.end(), {"/listing/file", "/listing/line", "/listing/date"});
    for (std::size_t i = 0; i < list.size(); ++i)
        for (const FieldRef& f : walk(list.shared_entry(i))) {
            std::string cell;
            if (f.quantity)
                cell = f.active ? f.quantity->text : std::string();
            else if (f.text)
                cell = *f.text;
            else if (f.type == FieldRef::Type::choice)
                cell = f.active ? f.choice_spec.options[static_cast<std::size_t>(f.chosen())].key : "";
            else if (f.variant)
                cell = f.variant.kinds()[static_cast<std::size_t>(f.chosen())].key;
            else if (f.flag)
                cell = *f.flag ? "yes" : "";
            if (cell.empty() || is_placed(kind, last_of(f.path))) continue;
            Column& c = columns[f.path];
            if (c.heading.empty()) {
                const auto alike =
                    std::count_if(known.begin(), known.end(), [&](const Field& k) { return k.label == f.label(); });
                c.heading = f.path == "/name" ? "name" : alike == 1 ? f.label() : f.path;
                c.unit = f.quantity && f.quantity->unit ? f.quantity->unit->symbol : "";
            }
            c.cells.resize(list.size());
            const std::string unit = f.quantity && f.quantity->unit ? std::string(f.quantity->unit->symbol) : "";
            double number = 0;
            const std::size_t size =
                cell.size() > unit.size() + 1 && cell.ends_with(" " + unit) ? cell.size() - unit.size() - 1 : 0;
            const auto r = std::from_chars(cell.data(), cell.data() + size, number);
            if (unit.empty() || unit == "1" || unit != c.unit || size == 0 || r.ptr != cell.data() + size)
                c.one_unit = false;
            c.cells[i] = std::move(cell);
        }
    std::string out;
    std::vector<const Column*> shown;
    for (const std::string& path : order)
        if (const auto it = columns.find(path); it != columns.end()) {
            const Column& c = it->second;
            out += (shown.empty() ? "" : ",") + csv_cell(c.heading + (c.one_unit ? " [" + c.unit + "]" : ""));
            shown.push_back(&c);
        }
    out += "\r\n";
    for (std::size_t i = 0; i < list.size(); ++i) {
        for (std::size_t c = 0; c < shown.size(); ++c) {
            const std::string cell = i < shown[c]->cells.size() ? shown[c]->cells[i] : "";
            out += (c ? "," : "") + csv_cell(shown[c]->one_unit && !cell.empty()
                                                 ? cell.substr(0, cell.size() - shown[c]->unit.size() - 1)
                                                 : cell);
        }
        out += "\r\n";
    }
    return out;
}

} // namespace fulmox
