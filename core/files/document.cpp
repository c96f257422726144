#include "core/files/document.h"

#include "core/quantity/format.h"

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

// Builds the document and notes where each value ended.
class Builder : public nlohmann::json_sax<Json> {
  public:
    Builder(JsonDocument& out, int& line) : out_(out), line_(line) {}
    Problem problem;

    bool null() override { return put(nullptr); }
    bool boolean(bool v) override { return put(v); }
    bool number_integer(number_integer_t v) override { return put(v); }
    bool number_unsigned(number_unsigned_t v) override { return put(v); }
    bool number_float(number_float_t v, const string_t&) override { return put(v); }
    bool string(string_t& v) override { return put(std::move(v)); }
    bool binary(binary_t&) override { return fail("binary data is not part of the format"); }
    bool start_object(std::size_t) override { return open(Json::object()); }
    bool start_array(std::size_t) override { return open(Json::array()); }
    bool end_object() override { return close(); }
    bool end_array() override { return close(); }
    bool key(string_t& v) override {
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

int JsonDocument::line_of(const std::map<std::string, int>& lines, std::string p) {
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
    Builder builder(d, line);
    const CountingIterator first{text.data(), &line};
    const CountingIterator last{text.data() + text.size(), &line};
    if (!Json::sax_parse(first, last, &builder)) {
        if (builder.problem.message.empty())
            builder.problem = {Severity::error, "", "", "the file is not valid JSON", line};
        return Out::failure(builder.problem);
    }
    return d;
}

} // namespace fulmox
