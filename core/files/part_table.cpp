#include "core/files/part_table.h"

#include "core/files/part_columns.h"
#include "core/files/text_rows.h"
#include "core/model/walk.h"
#include "core/quantity/columns.h"
#include "core/quantity/format.h"
#include "core/report/table.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <sstream>
#include <utility>

namespace fulmox {

namespace {

constexpr std::size_t most_problems = 1000;
constexpr int longest_row = 20; // lines

bool blank(const std::vector<std::string>& cells) {
    return std::all_of(cells.begin(), cells.end(), [](const std::string& c) { return trim(c).empty(); });
}

class VariantChooser : public FieldVisitor {
  public:
    explicit VariantChooser(int kind) : kind_(kind) {}

  private:
    int kind_;
    bool writes() const override { return true; }
    void on_variant(VariantRef variant, const GroupSpec&, const Place&) override { variant.choose(kind_); }
};

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
                !says_nothing(trim(cells[c])))
                says_(Severity::error, static_cast<int>(c), table_.columns[c].label.c_str(),
                    "found \"" + cells[c].substr(0, 40) + "\"; this kind of motor has no such field");
        return good_;
    }
    /// Column of the variant's kind; −1: there is none.
    int variant_column() const {
        for (const KnownField& f : known_fields(kind_))
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
        if (says_nothing(text)) {
            if (place.active && q.text.empty() && spec.required)
                says_(Severity::error, c, spec.label, "missing (" + range_text(spec, false) + ")");
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
        q.standing = InputSource::datasheet;
        if (auto f = fault(spec, place.kind, q)) says_(f->first, c, spec.label, std::move(f->second));
    }
    void on_text(std::string& s, const TextSpec&, const Place&) override {
        if (const int c = column(); c >= 0) s = std::string(cell(c));
    }
    void on_choice(ChoiceRef choice, const ChoiceSpec& spec, const Place&) override {
        const int c = column();
        if (const std::string_view text = cell(c); !says_nothing(text))
            choose(text, spec.options, c, spec.label, [&](int i) { choice.choose(i); });
    }
    void on_flag(bool& b, const FlagSpec& spec, const Place&) override {
        if (spec.by_itself) return;
        const int c = column();
        const std::string text = lower(cell(c));
        if (says_nothing(text)) return;
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
        const std::string said = plain_words(text);
        std::optional<std::size_t> found;
        for (std::size_t i = 0; i < options.size(); ++i)
            if (said == plain_words(options[i].key) || said == plain_words(options[i].label)) return i;
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
} // namespace

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
            add({Severity::suspicious, column_words(static_cast<int>(c)), "", "ignored: " + table.columns[c].wrong,
                table.heading_line});
    if (std::none_of(
            table.columns.begin(), table.columns.end(), [](const PartColumn& c) { return c.field == "/name"; })) {
        add({Severity::error, "the headings", "",
            "no column is the name of the part; allowed are headings such as \"name\" or \"part number\"",
            table.heading_line});
        return out;
    }
    const auto column_of = [&](const std::string& key) {
        for (std::size_t c = 0; c < table.columns.size(); ++c)
            if (last_key(table.columns[c].field) == key) return static_cast<int>(c);
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
                wrong(p.severity, column_of(last_key(p.path)), p.field.c_str(), std::move(p.message));
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
    TextRows rows(table.separator);
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
            add({Severity::error, "", "Line", "it is longer than " + std::to_string(TextLines::longest / 1024) + " kB",
                lines.number()});
            ++out.rows;
            ++out.left_out;
            continue;
        }
        feed(line, lines.number());
        if (rows.lines() >= longest_row) {
            // the row is given up, and what was taken for a part of it is looked at again
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
    const std::vector<KnownField>& known = known_fields(kind);
    for (const KnownField& f : known) order.push_back(f.path);
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
            if (cell.empty() || is_placed(kind, last_key(f.path))) continue;
            Column& c = columns[f.path];
            if (c.heading.empty()) {
                const auto alike = std::count_if(
                    known.begin(), known.end(), [&](const KnownField& k) { return k.label == f.label(); });
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
