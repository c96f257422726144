#include "core/quantity/expression.h"

#include "core/quantity/format.h"
#include "core/quantity/spelling.h"

#include <charconv>
#include <cmath>
#include <cstdlib>
#include <numbers>
#include <vector>

namespace fulmox {

namespace {

constexpr std::size_t longest_text = 400;
constexpr int deepest_nesting = 40;

bool is_digit(char c) { return c >= '0' && c <= '9'; }

bool is_name_char(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '%' || c == '_' ||
           static_cast<unsigned char>(c) >= 0x80;
}

struct Value {
    double si = 0;
    Dimension dimension;
    Kind kind = Kind::illegal; // of a single unit, kept through sums and pure factors
    const Unit* unit = nullptr;
    bool pure = true; // no unit seen so far
    bool affine = false;
};

struct Failure {
    ReadError error;
};

struct Name {
    std::string_view text;
    int exponent = 1;
};

class Parser {
  public:
    Parser(std::string_view text, Kind wanted) : text_(text), wanted_(wanted) {}

    Value whole() {
        Value v = sum();
        skip();
        if (at_ < text_.size()) unexpected();
        return v;
    }

  private:
    std::string_view text_;
    Kind wanted_;
    std::size_t at_ = 0;
    int depth_ = 0;

    [[noreturn]] void fail(std::string message, std::size_t position) const {
        throw Failure{{std::move(message), position}};
    }
    [[noreturn]] void fail(std::string message) const { fail(std::move(message), at_); }

    [[noreturn]] void unexpected() const {
        if (at_ >= text_.size()) fail("it ends where a number was expected");
        if (text_[at_] == ',')
            fail("a comma is not read, it may mean a decimal or a thousands sign: write 1.5 or 1500");
        if (is_digit(text_[at_]) || text_[at_] == '.')
            fail("two numbers stand in a row; a sign such as + or * is missing between them");
        std::size_t end = at_ + 1;
        while (end < text_.size() && (static_cast<unsigned char>(text_[end]) & 0xC0) == 0x80) ++end;
        fail("\"" + printable(text_.substr(at_, end - at_)) + "\" was not expected here");
    }

    static std::string printable(std::string_view s) {
        std::string out;
        for (const char c : s.substr(0, 40)) out += static_cast<unsigned char>(c) < 0x20 || c == 0x7f ? '?' : c;
        return out;
    }

    void skip() {
        while (at_ < text_.size() && (text_[at_] == ' ' || text_[at_] == '\t')) ++at_;
    }
    char peek() const { return at_ < text_.size() ? text_[at_] : '\0'; }
    bool at_name() const { return is_name_char(peek()); }

    Value sum() {
        if (++depth_ > deepest_nesting) fail("brackets are nested more than 40 deep");
        Value left = product();
        for (skip(); peek() == '+' || peek() == '-'; skip()) {
            const char sign = text_[at_++];
            const std::size_t where = at_;
            const Value right = product();
            if (left.affine || right.affine)
                add_affine(left, right, sign, where);
            else
                add(left, right, sign, where);
        }
        --depth_;
        return left;
    }

    void add(Value& left, const Value& right, char sign, std::size_t where) const {
        const auto sum = [&] {
            // "12 kg + 10 %": a share of what, nobody can know
            if (right.unit && right.unit->symbol == "%")
                return "a percentage is no " +
                       std::string(left.kind != Kind::illegal ? info(left.kind).name : "quantity") +
                       "; write a tolerance as ± 10 %, a share as * 1.1";
            return (sign == '+' ? "cannot add " + describe(right) + " to " + describe(left)
                                : "cannot subtract " + describe(right) + " from " + describe(left));
        };
        if (left.dimension != right.dimension) fail(sum(), where);
        if (left.kind != right.kind && left.kind != Kind::illegal && right.kind != Kind::illegal) fail(sum(), where);
        left.si += sign == '+' ? right.si : -right.si;
        left.pure = left.pure && right.pure;
        if (!left.unit) left.unit = right.unit;
        if (left.kind == Kind::illegal) left.kind = right.kind;
    }

    void add_affine(Value& left, const Value& right, char sign, std::size_t where) const {
        if (!left.affine || right.affine || right.dimension != left.dimension)
            fail("only a temperature difference in K can be added to a temperature", where);
        left.si += sign == '+' ? right.si : -right.si;
    }

    Value product() {
        Value left = factor();
        for (skip(); at_ < text_.size(); skip()) {
            const char op = peek();
            if (op == '*' || op == '/') {
                ++at_;
                Value right = factor_without_unit();
                skip();
                const bool fraction = op == '/' && left.pure && right.pure;
                if (at_name() && !fraction) attach_unit(right);
                multiply(left, right, op == '*' ? 1 : -1);
            } else if (at_name()) {
                attach_unit(left);
            } else {
                break;
            }
        }
        return left;
    }

    void multiply(Value& left, const Value& right, int sign) const {
        if (left.affine || right.affine) fail("a temperature in °C or °F cannot be multiplied; use K");
        if (sign < 0 && right.si == 0) fail("division by zero");
        left.si = sign > 0 ? left.si * right.si : left.si / right.si;
        left.dimension = sign > 0 ? left.dimension + right.dimension : left.dimension - right.dimension;
        if (right.pure) {
        } else if (left.pure && sign > 0) {
            left.kind = right.kind;
        } else {
            left.kind = Kind::illegal;
        }
        if (!left.unit) left.unit = right.unit;
        left.pure = left.pure && right.pure;
        if (!std::isfinite(left.si)) fail("the value is too large");
    }

    Value factor() {
        Value v = factor_without_unit();
        return v;
    }

    Value factor_without_unit() {
        skip();
        bool negative = false;
        for (; peek() == '-' || peek() == '+'; skip()) {
            negative ^= peek() == '-';
            ++at_;
        }
        Value v = primary();
        skip();
        if (peek() == '^' && v.pure) {
            ++at_;
            v.si = std::pow(v.si, static_cast<double>(integer_exponent()));
        } else if (peek() == '^') {
            ++at_;
            const int n = integer_exponent();
            v.si = std::pow(v.si, n);
            v.dimension = v.dimension * n;
            v.kind = Kind::illegal;
        }
        if (negative) v.si = -v.si;
        if (!std::isfinite(v.si)) fail("the value is too large");
        return v;
    }

    int integer_exponent() {
        skip();
        const bool negative = peek() == '-';
        if (negative) ++at_;
        if (!is_digit(peek())) fail("an exponent must be a whole number");
        int n = 0;
        while (is_digit(peek()) && n < 100) n = n * 10 + (text_[at_++] - '0');
        if (n > 12 || peek() == '.' || is_digit(peek())) fail("an exponent must be a whole number up to 12");
        return negative ? -n : n;
    }

    Value primary() {
        skip();
        const char c = peek();
        if (is_digit(c) || c == '.') return number();
        if (c == '(') {
            ++at_;
            Value v = sum();
            skip();
            if (peek() != ')') fail("a closing bracket is missing");
            ++at_;
            return v;
        }
        if (at_name()) return named();
        unexpected();
    }

    Value number() {
        const std::size_t start = at_;
        double v = 0;
        const char* end = nullptr;
        // decimal digits only: from_chars would also take "inf" and "nan", which number() is never offered
        const auto r = std::from_chars(text_.data() + at_, text_.data() + text_.size(), v);
        end = r.ptr;
        if (r.ec == std::errc::result_out_of_range) fail("the number is too large or too small", start);
        if (r.ec != std::errc{}) fail("this is not a number", start);
        at_ = static_cast<std::size_t>(end - text_.data());
        if (peek() == ',') unexpected();
        if (peek() == '.') fail("a number has one decimal point", at_);
        const std::string_view written = text_.substr(start, at_ - start);
        if (written.size() <= 3 && written.find_first_not_of("0123456789") == std::string_view::npos) {
            group_thousands(v);
            mixed_fraction(v);
        }
        return Value{v};
    }

    bool digits_at(std::size_t i, std::size_t n) const {
        if (i + n > text_.size()) return false;
        for (std::size_t k = 0; k < n; ++k)
            if (!is_digit(text_[i + k])) return false;
        return true;
    }

    void group_thousands(double& v) {
        while (peek() == ' ' && digits_at(at_ + 1, 3) && !digits_at(at_ + 4, 1)) {
            std::size_t after = at_ + 4;
            while (after < text_.size() && text_[after] == ' ') ++after;
            if (after < text_.size() && text_[after] == '/') return;
            double group = 0;
            const char* from = text_.data() + at_ + 1;
            const auto r = std::from_chars(from, text_.data() + text_.size(), group);
            v = v * 1000 + std::trunc(group);
            if (group != std::trunc(group)) v += group - std::trunc(group);
            at_ = static_cast<std::size_t>(r.ptr - text_.data());
        }
    }

    // "1 1/2"
    void mixed_fraction(double& v) {
        std::size_t i = at_;
        if (i >= text_.size() || text_[i] != ' ') return;
        while (i < text_.size() && text_[i] == ' ') ++i;
        const auto whole = [&](double& out) {
            const std::size_t from = i;
            while (i < text_.size() && is_digit(text_[i]) && i - from < 4) ++i;
            if (i == from) return false;
            out = std::atof(std::string(text_.substr(from, i - from)).c_str());
            return true;
        };
        double over = 0;
        double under = 0;
        if (!whole(over) || i >= text_.size() || text_[i] != '/') return;
        ++i;
        if (!whole(under) || under == 0 || (i < text_.size() && (is_digit(text_[i]) || text_[i] == '.'))) return;
        v += over / under;
        at_ = i;
    }

    Value named() {
        const std::size_t start = at_;
        std::size_t end = at_;
        while (end < text_.size() && is_name_char(text_[end])) ++end;
        const std::string_view word = text_.substr(start, end - start);
        if (word == "pi") {
            at_ = end;
            return Value{std::numbers::pi};
        }
        if (word == "sqrt") {
            at_ = end;
            skip();
            if (peek() != '(') fail("sqrt needs a bracket: sqrt(2)");
            const Value v = primary();
            if (!v.pure) fail("sqrt takes a bare number", start);
            if (v.si < 0) fail("sqrt of a negative number", start);
            return Value{std::sqrt(v.si)};
        }
        if (word == "nan" || word == "NaN" || word == "inf" || word == "Inf" || word == "infinity")
            fail("\"" + std::string(word) + "\" is not a number that can be used", start);
        Value one{1};
        attach_unit(one);
        return one;
    }

    // Reads a run of unit names joined by *, /, - or a space, and multiplies it onto v.
    void attach_unit(Value& v) {
        const std::size_t start = at_;
        const std::vector<Name> names = unit_run();
        if (v.affine) fail("a second unit follows a temperature", start);
        const Unit* known = find(canonical(names));
        if (!known && names.size() == 1 && names[0].exponent == 1) unknown_unit(names[0].text, start);
        Value u;
        u.pure = false;
        if (known) {
            u.si = known->factor;
            u.dimension = dimension_of(known->kind);
            u.kind = known->kind;
            u.unit = known;
            u.affine = known->offset != 0;
        } else {
            u.si = 1;
            for (const Name& n : names) {
                const Unit* part = find(std::string(n.text));
                if (!part) unknown_unit(n.text, start);
                // a temperature inside a product is a difference
                u.si *= std::pow(part->factor, n.exponent);
                u.dimension = u.dimension + dimension_of(part->kind) * n.exponent;
            }
        }
        if (u.affine) {
            if (!v.pure) fail("a temperature in °C or °F must stand alone", start);
            v = Value{v.si * u.si + known->offset, u.dimension, u.kind, known, false, true};
            return;
        }
        multiply(v, u, 1);
    }

    const Unit* find(const std::string& name) const {
        return wanted_ == Kind::illegal ? find_unit(name) : find_unit(name, wanted_);
    }

    static std::string canonical(const std::vector<Name>& names) {
        std::string over;
        std::string under;
        const auto put = [](std::string& s, std::string_view joint, const Name& n, int e) {
            if (!s.empty() || joint == "/") s += joint;
            s += n.text;
            if (e != 1) s += "^" + std::to_string(e);
        };
        if (names.size() == 1) {
            put(over, "", names[0], names[0].exponent);
            return over;
        }
        for (const Name& n : names) {
            if (n.exponent > 0)
                put(over, "*", n, n.exponent);
            else
                put(under, "/", n, -n.exponent);
        }
        return over + under;
    }

    std::vector<Name> unit_run() {
        std::vector<Name> names;
        int sign = 1;
        while (true) {
            std::size_t end = at_;
            while (end < text_.size() && is_name_char(text_[end])) ++end;
            Name n{text_.substr(at_, end - at_), sign};
            at_ = end;
            if (is_digit(peek()) && !digits_at(at_, 2)) { // "in2"
                n.exponent = sign * (text_[at_++] - '0');
            } else if (peek() == '^') {
                ++at_;
                n.exponent = sign * integer_exponent();
            }
            names.push_back(n);
            if (names.size() > 12) fail("more than twelve units in a row");
            const std::size_t before = at_;
            bool spaced = false;
            while (peek() == ' ') {
                ++at_;
                spaced = true;
            }
            sign = 1;
            const char joint = peek();
            if (joint == '*' || joint == '/') {
                ++at_;
                if (joint == '/') sign = -1;
                while (peek() == ' ') ++at_;
            } else if (joint == '-' && !spaced) {
                ++at_;
            }
            const bool constant =
                text_.substr(at_, 2) == "pi" && !is_name_char(at_ + 2 < text_.size() ? text_[at_ + 2] : ' ');
            if (!at_name() || constant || text_.substr(at_, 5) == "sqrt(") {
                at_ = before;
                return names;
            }
        }
    }

    [[noreturn]] void unknown_unit(std::string_view name, std::size_t where) const {
        std::string message = "\"" + printable(name) + "\" is not a known unit";
        if (wanted_ != Kind::illegal)
            message += "; " + std::string(info(wanted_).name) + " is written in " + some_units(wanted_);
        fail(message, where);
    }

  public:
    static std::string describe(const Value& v) {
        if (v.kind != Kind::illegal) {
            std::string out = v.unit && v.unit->kind == v.kind ? std::string(v.unit->symbol) : "";
            std::string note = v.unit && !v.unit->name.empty() ? ", " + std::string(v.unit->name) : "";
            return out.empty() ? std::string(info(v.kind).name)
                               : out + " (" + std::string(info(v.kind).name) + note + ")";
        }
        if (v.pure) return "a number without a unit";
        return "a quantity in " + v.dimension.symbol();
    }
};

bool may_drop_radian(const Dimension& from, const Dimension& to) {
    const bool other = to.length != 0 || to.mass != 0 || to.current != 0 || to.temperature != 0;
    return from.angle != 0 && to.angle == 0 && other && from.without_angle() == to;
}

std::string radian_hint(const Dimension& from, const Dimension& to) {
    if (from.without_angle() != to.without_angle() || from.angle == to.angle) return "";
    if (to.angle > from.angle) return "; the angle is missing: write \"per rev\", as in 20 mm/rev, or use rad";
    return "; it still holds an angle: divide by 1 rev for turns, or by 1 rad";
}

ReadError look_alike(const Value& v, Kind wanted) {
    return {"found " + Parser::describe(v) + ", but " + std::string(info(wanted).name) +
                " is wanted here: " + some_units(wanted) + radian_hint(v.dimension, dimension_of(wanted)),
        0};
}

bool same_kind(Kind a, Kind b) {
    return a == b || a == Kind::illegal || (a == Kind::temperature_difference && b == Kind::temperature) ||
           (a == Kind::temperature && b == Kind::temperature_difference);
}

// A value of kind `wanted`, or why not.
Result<double, ReadError> accept(const Value& v, Kind wanted) {
    const Dimension want = dimension_of(wanted);
    const bool fits = v.dimension == want || may_drop_radian(v.dimension, want) ||
                      (wanted == Kind::length && v.dimension == dimension_of(Kind::length_per_angle));
    if (!fits || !same_kind(v.kind, wanted)) {
        // "10 mm/rev" for a lead: a length per turn where the turn is understood
        if (wanted == Kind::length && v.dimension == dimension_of(Kind::length_per_angle))
            return v.si * 2 * std::numbers::pi;
        return Result<double, ReadError>::failure(look_alike(v, wanted));
    }
    if (wanted == Kind::length && v.dimension.angle == -1) return v.si * 2 * std::numbers::pi;
    return v.si;
}

struct Split {
    std::string_view main;
    std::optional<std::string_view> tolerance;
    std::size_t offset = 0;
};

Split split_tolerance(std::string_view text) {
    for (const std::string_view sign : {std::string_view("±"), std::string_view("+/-")}) {
        const std::size_t at = text.find(sign);
        if (at != std::string_view::npos) return {text.substr(0, at), text.substr(at + sign.size()), at + sign.size()};
    }
    return {text, std::nullopt, 0};
}

bool blank(std::string_view s) { return s.find_first_not_of(" \t\r\n") == std::string_view::npos; }

Result<Value, ReadError> parse(std::string_view text, Kind wanted) {
    try {
        return Parser(text, wanted).whole();
    } catch (const Failure& f) {
        return Result<Value, ReadError>::failure(f.error);
    }
}

using Read = Result<Reading, ReadError>;

} // namespace

Read read_quantity(std::string_view raw, Kind wanted, const Unit& bare) {
    if (raw.size() > longest_text)
        return Read::failure({"the text has " + std::to_string(raw.size()) + " characters; at most " +
                                  std::to_string(longest_text) + " are read",
            0});
    const std::string text = spelling::plain_signs(raw);
    if (blank(text)) return Read::failure({"it is empty; a " + std::string(info(wanted).name) + " is wanted", 0});
    const Split split = split_tolerance(text);
    auto main = parse(split.main, wanted);
    if (!main) return Read::failure(main.error());
    Reading out;
    out.unit = &bare;
    std::optional<Value> spread;
    if (split.tolerance) {
        auto t = parse(*split.tolerance, wanted == Kind::number ? Kind::illegal : wanted);
        if (!t) return Read::failure({"tolerance: " + t.error().message, split.offset + t.error().position});
        spread = *t;
    }
    const bool percent = spread && spread->unit && spread->unit->symbol == "%";
    if (main->pure) {
        // "12 ± 0.5 kg": the unit at the end serves both
        const Unit& taken =
            spread && !spread->pure && !percent && spread->unit && spread->kind == wanted ? *spread->unit : bare;
        main->si = to_si(main->si, taken);
        out.unit = &taken;
        out.bare = &taken == &bare;
    } else {
        const auto value = accept(*main, wanted);
        if (!value) return Read::failure(value.error());
        main->si = *value;
        if (main->unit && main->unit->kind == wanted) out.unit = main->unit;
    }
    out.si = main->si;
    if (!std::isfinite(out.si)) return Read::failure({"the value is too large", 0});
    if (spread) {
        if (percent) {
            const double zero = out.unit->offset;
            out.tolerance = std::abs(out.si - zero) * spread->si;
        } else if (spread->pure) {
            out.tolerance = spread->si * out.unit->factor;
        } else if (spread->affine) {
            out.tolerance = (spread->si - spread->unit->offset);
        } else {
            const auto value = accept(*spread, wanted);
            if (!value) return Read::failure({"tolerance: " + value.error().message, split.offset});
            out.tolerance = *value;
        }
        if (!(out.tolerance >= 0) || !std::isfinite(out.tolerance))
            return Read::failure({"a tolerance must not be negative", split.offset});
    }
    return out;
}

std::string with_unit(std::string_view raw, const Reading& reading) {
    const auto trim = [](std::string_view s) {
        const std::size_t from = s.find_first_not_of(" \t\r\n");
        return from == std::string_view::npos ? std::string_view{}
                                              : s.substr(from, s.find_last_not_of(" \t\r\n") - from + 1);
    };
    if (!reading.bare || reading.unit->symbol == "1") return std::string(trim(raw));
    const std::string text = spelling::plain_signs(raw);
    const Split split = split_tolerance(text);
    std::string main(trim(split.main));
    const std::string symbol(reading.unit->symbol);
    if (main.find_first_of("+-/*", 1) != std::string::npos) main = "(" + main + ")";
    if (!split.tolerance) return main + " " + symbol;
    const std::string sign = text.substr(split.main.size(), split.offset - split.main.size());
    return main + " " + symbol + " " + sign + " " + std::string(trim(*split.tolerance));
}

Result<Evaluation, ReadError> evaluate(std::string_view raw) {
    using Out = Result<Evaluation, ReadError>;
    if (raw.size() > longest_text) return Out::failure({"the text is longer than 400 characters", 0});
    const std::string text = spelling::plain_signs(raw);
    if (blank(text)) return Out::failure({"it is empty", 0});
    const auto v = parse(text, Kind::illegal);
    if (!v) return Out::failure(v.error());
    return Evaluation{v->si, v->dimension, v->pure ? Kind::number : v->kind, v->unit};
}

Result<double, ReadError> convert(const Evaluation& value, const Unit& to) {
    Value v;
    v.si = value.si;
    v.dimension = value.dimension;
    v.kind = value.kind == Kind::number ? Kind::illegal : value.kind;
    v.unit = value.unit;
    v.pure = value.kind == Kind::number;
    // pulses per second and hertz count the same thing
    if ((v.kind == Kind::frequency || v.kind == Kind::count_rate) && dimension_of(to.kind) == v.dimension)
        v.kind = to.kind;
    auto accepted = accept(v, to.kind);
    if (!accepted) return accepted;
    return from_si(*accepted, to);
}

} // namespace fulmox
