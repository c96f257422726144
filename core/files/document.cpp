#include "core/files/document.h"

#include "core/quantity/format.h"

#include <array>
#include <charconv>
#include <unordered_set>
#include <vector>

namespace fulmox {

namespace {

// Counts lines as the parser consumes characters; the parser looks one character ahead at most.
struct CountingIterator {
    using iterator_category = std::input_iterator_tag;
    using value_type = char;
    using difference_type = std::ptrdiff_t;
    using pointer = const char*;
    using reference = const char&;

    const char* at = nullptr;
    int* line = nullptr;

    reference operator*() const { return *at; }
    CountingIterator& operator++() {
        if (*at == '\n') ++*line;
        ++at;
        return *this;
    }
    CountingIterator operator++(int) {
        CountingIterator before = *this;
        ++*this;
        return before;
    }
    bool operator==(const CountingIterator& o) const { return at == o.at; }
};

// Pictures are megabytes of base64, which needs no escape: they are set aside before the parser goes through the rest
// letter by letter. A line end never stands in them, so that lines stay what they are.
struct SetAside {
    std::string rest; // empty: nothing is long enough
    std::vector<std::string_view> texts;
    std::string mark; // stands for one, with its number; occurs nowhere else

    const std::string_view* text_of(std::string_view value) const {
        if (texts.empty() || !value.starts_with(mark)) return nullptr;
        std::size_t n = 0;
        const auto r = std::from_chars(value.data() + mark.size(), value.data() + value.size(), n);
        return r.ec == std::errc() && r.ptr == value.data() + value.size() && n < texts.size() ? &texts[n] : nullptr;
    }
};

SetAside set_aside(std::string_view text) {
    constexpr std::size_t least = 4096;
    static const std::array<bool, 256> in_base64 = [] {
        std::array<bool, 256> out{};
        for (const char c : std::string_view("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/="))
            out[static_cast<unsigned char>(c)] = true;
        return out;
    }();
    SetAside out;
    std::size_t kept = 0;
    for (std::size_t at = text.find('"'); at != std::string_view::npos; at = text.find('"', at + 1)) {
        std::size_t end = at + 1;
        while (end < text.size() && in_base64[static_cast<unsigned char>(text[end])]) ++end;
        const bool whole = end < text.size() && text[end] == '"' && (at == 0 || text[at - 1] != '\\');
        if (!whole || end - at - 1 < least) continue;
        if (out.texts.empty())
            for (int n = 0; out.mark.empty() || text.find(out.mark) != std::string_view::npos; ++n)
                out.mark = "set aside " + std::to_string(n) + ".";
        out.rest.append(text, kept, at + 1 - kept);
        out.rest += out.mark + std::to_string(out.texts.size());
        out.texts.push_back(text.substr(at + 1, end - at - 1));
        kept = at = end;
    }
    if (!out.texts.empty()) out.rest.append(text, kept);
    return out;
}

// Builds the document and notes where each value ended.
class Builder : public nlohmann::json_sax<Json> {
  public:
    Builder(JsonDocument& out, int& line, const SetAside& aside) : out_(out), line_(line), aside_(aside) {}
    Problem problem;

    bool null() override { return put(nullptr); }
    bool boolean(bool v) override { return put(v); }
    bool number_integer(number_integer_t v) override { return put(v); }
    bool number_unsigned(number_unsigned_t v) override { return put(v); }
    bool number_float(number_float_t v, const string_t&) override { return put(v); }
    bool string(string_t& v) override {
        if (const std::string_view* text = aside_.text_of(v)) return put(std::string(*text));
        return put(std::move(v));
    }
    bool binary(binary_t&) override { return fail("binary data is not part of the format"); }
    bool start_object(std::size_t) override { return open(Json::object()); }
    bool start_array(std::size_t) override { return open(Json::array()); }
    bool end_object() override { return close(); }
    bool end_array() override { return close(); }
    bool key(string_t& v) override {
        if (const std::string_view* text = aside_.text_of(v)) v = *text;
        Level& top = levels_.back();
        // the members of an object are a list: a large one is looked up elsewhere
        if (top.value->size() == 32)
            for (const auto& [key, value] : top.value->items()) top.seen.insert(key);
        const bool twice = top.value->size() < 32 ? top.value->contains(v) : !top.seen.insert(v).second;
        if (twice) return fail("the member \"" + v.substr(0, 60) + "\" stands twice in one object");
        top.key = v;
        return true;
    }
    bool parse_error(std::size_t, const std::string& token, const nlohmann::detail::exception& e) override {
        std::string what = e.what();
        // "[json.exception.parse_error.101] parse error at line 1, column 2: …": the part a person can use
        if (const std::size_t at = what.rfind("; expected"); at != std::string::npos)
            what = what.substr(at + 2);
        else if (const std::size_t colon = what.rfind(": "); colon != std::string::npos)
            what = what.substr(colon + 2);
        std::string shown;
        for (const char c : token.substr(0, 40))
            shown += static_cast<unsigned char>(c) < 0x20 || static_cast<unsigned char>(c) >= 0x7f ? '?' : c;
        problem = {Severity::error, pointer(), "",
            "the file is not valid JSON here: " + what + (shown.empty() ? "" : ", found \"" + shown + "\"") +
                ". It may be cut off or not a project file",
            line_};
        return false;
    }

  private:
    struct Level {
        Json* value;
        std::string key;
        std::size_t path_length;
        std::unordered_set<std::string> seen{};
    };
    JsonDocument& out_;
    int& line_;
    const SetAside& aside_;
    std::vector<Level> levels_;
    std::string path_;

    std::string pointer() const { return path_; }
    bool fail(std::string message) {
        problem = {Severity::error, pointer(), "", std::move(message), line_};
        return false;
    }
    Json* attach(Json v, std::string& where) {
        if (levels_.empty()) {
            out_.root = std::move(v);
            where = "";
            return &out_.root;
        }
        Level& top = levels_.back();
        if (top.value->is_array()) {
            where = path_ + "/" + std::to_string(top.value->size());
            top.value->push_back(std::move(v));
            return &top.value->back();
        }
        where = child_pointer(path_, top.key);
        auto& members = top.value->get_ref<Json::object_t&>();
        members.emplace_back(top.key, std::move(v)); // key() has seen that it is new
        return &members.back().second;
    }
    template <class T> bool put(T&& v) {
        std::string where;
        attach(Json(std::forward<T>(v)), where);
        out_.lines[where] = line_;
        return true;
    }
    bool open(Json v) {
        if (levels_.size() >= static_cast<std::size_t>(deepest_json))
            return fail("it is nested more than " + std::to_string(deepest_json) + " deep; no project file is");
        std::string where;
        const std::size_t before = path_.size();
        Json* held = attach(std::move(v), where);
        // an object that outgrows its room copies what it holds: its keys cannot be moved
        if (held->is_object()) held->get_ref<Json::object_t&>().reserve(16);
        out_.lines[where] = line_;
        path_ = where;
        levels_.push_back({held, "", before, {}});
        return true;
    }
    bool close() {
        path_.resize(levels_.back().path_length);
        levels_.pop_back();
        return true;
    }
};

} // namespace

std::string child_pointer(const std::string& pointer, std::string_view key) {
    std::string out = pointer + "/";
    for (const char c : key) {
        if (c == '~')
            out += "~0";
        else if (c == '/')
            out += "~1";
        else
            out += c;
    }
    return out;
}

int JsonDocument::line_of(const std::unordered_map<std::string, int>& lines, std::string p) {
    for (;;) {
        if (const auto it = lines.find(p); it != lines.end()) return it->second;
        const std::size_t cut = p.rfind('/');
        if (p.empty() || cut == std::string::npos) return 0;
        p.resize(cut);
    }
}

Result<JsonDocument, Problem> parse_document(std::string_view text, std::size_t most) {
    using Out = Result<JsonDocument, Problem>;
    if (text.size() > most)
        return Out::failure({Severity::error, "", "",
            "the file has " + format_number(static_cast<double>(text.size()) / 1e6, 4) +
                " MB; a project file has at most " + format_number(static_cast<double>(most) / 1e6, 4) + " MB",
            0});
    if (text.find_first_not_of(" \t\r\n") == std::string_view::npos)
        return Out::failure({Severity::error, "", "", "the file is empty", 1});
    if (text.find('\0') != std::string_view::npos)
        return Out::failure(
            {Severity::error, "", "", "the file holds binary data, not text; it is not a project file", 1});
    JsonDocument d;
    int line = 1;
    const SetAside aside = set_aside(text);
    if (!aside.texts.empty()) text = aside.rest;
    Builder builder(d, line, aside);
    const CountingIterator first{text.data(), &line};
    const CountingIterator last{text.data() + text.size(), &line};
    if (!Json::sax_parse(first, last, &builder)) {
        if (builder.problem.message.empty())
            builder.problem = {Severity::error, "", "", "the file is not valid JSON", line};
        return Out::failure(builder.problem);
    }
    return d;
}

std::string LongTexts::stand_in(std::size_t i) const {
    return "long text " + std::to_string(attempt_) + "." + std::to_string(i);
}

std::string LongTexts::hold(std::string_view text) {
    texts_.push_back(text);
    return stand_in(texts_.size() - 1);
}

std::optional<std::string> LongTexts::put_in(const std::string& written) const {
    if (texts_.empty()) return written;
    std::string out;
    std::size_t room = written.size();
    for (const std::string_view t : texts_) room += t.size() + t.size() / 32;
    out.reserve(room);
    std::size_t from = 0; // they come in the order in which they were held
    for (std::size_t i = 0; i < texts_.size(); ++i) {
        const std::string quoted = '"' + stand_in(i) + '"';
        const std::size_t at = written.find(quoted);
        if (at == std::string::npos || at < from || written.find(quoted, at + 1) != std::string::npos)
            return std::nullopt;
        out.append(written, from, at + 1 - from);
        const std::string_view text = texts_[i];
        std::size_t kept = 0;
        for (std::size_t k = 0; k < text.size(); ++k) {
            const char c = text[k];
            if (c != '"' && c != '\\' && static_cast<unsigned char>(c) >= 0x20) continue;
            out.append(text, kept, k - kept);
            kept = k + 1;
            constexpr const char* digits = "0123456789abcdef";
            if (c == '\n')
                out += "\\n";
            else if (c == '"' || c == '\\')
                (out += '\\') += c;
            else
                ((out += "\\u00") += digits[c >> 4]) += digits[c & 15];
        }
        out.append(text, kept);
        from = at + quoted.size() - 1;
    }
    out.append(written, from);
    return out;
}

} // namespace fulmox
