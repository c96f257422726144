#include "core/files/text_rows.h"

#include <algorithm>
#include <array>
#include <cerrno>
#include <utility>

namespace fulmox {

namespace {

constexpr std::size_t chunk = 1 << 20;

bool is_utf8(const std::string& s) {
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

} // namespace

Decoder::Decoder(const char* from) : handle_(iconv_open("UTF-8", from)) {}
Decoder::~Decoder() {
    if (handle_ != reinterpret_cast<iconv_t>(-1)) iconv_close(handle_);
}

void Decoder::decode(std::string_view bytes, std::string& out) {
    rest_ += bytes;
    char* in = rest_.data();
    std::size_t left = rest_.size();
    std::array<char, 1 << 14> buffer;
    while (left > 0) {
        char* to = buffer.data();
        std::size_t room = buffer.size();
        const std::size_t done = iconv(handle_, &in, &left, &to, &room);
        out.append(buffer.data(), to);
        if (done != static_cast<std::size_t>(-1) || errno == E2BIG) continue;
        if (errno == EINVAL) break; // half a letter
        out += "\xEF\xBF\xBD";      // no letter at all
        ++in;
        --left;
    }
    rest_.erase(0, rest_.size() - left);
}

TextLines::TextLines(std::istream& in) : in_(in) {
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

bool TextLines::next(std::string& line) {
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
        if (text_.size() > longest) { // its end is looked for without keeping it
            over_ = true;
            text_.clear();
            looked_ = 0;
        }
        const std::string got = more();
        if (got.empty())
            ended_ = true;
        else if (decoder_)
            decoder_->decode(got, text_);
        else
            text_ += got;
    }
}

std::string TextLines::more() {
    std::string got(chunk, '\0');
    in_.read(got.data(), static_cast<std::streamsize>(got.size()));
    got.resize(static_cast<std::size_t>(in_.gcount()));
    bytes_ += got.size();
    return got;
}

void TextLines::wide(const char* encoding, const std::string& head, std::size_t mark) {
    wide_ = encoding;
    decoder_.emplace(encoding);
    decoder_->decode(std::string_view(head).substr(mark), text_);
}

void TextLines::take(std::string& line, std::size_t end) {
    ++number_;
    too_long_ = std::exchange(over_, false) || end - at_ > longest;
    line.assign(too_long_ ? std::string_view() : std::string_view(text_).substr(at_, end - at_));
    if (decoder_ || is_utf8(line)) return;
    single_ = true;
    std::string out;
    Decoder("WINDOWS-1252").decode(line, out);
    line = std::move(out);
}

TextRows::TextRows(char separator) : separator_(separator) { restart(); }
TextRows::~TextRows() { csv_free(&parser_); }

bool TextRows::add(const std::string& line) {
    if (lines_ == 0) cells_.clear();
    ++lines_;
    done_ = false;
    csv_parse(&parser_, line.data(), line.size(), cell, row, this);
    csv_parse(&parser_, "\n", 1, cell, row, this);
    // within a cell in quotes the library has begun a row that it has not ended
    if (done_ || (parser_.pstate == 0 && cells_.empty())) lines_ = 0;
    return done_;
}

void TextRows::give_up() {
    csv_free(&parser_);
    restart();
    cells_.clear();
    lines_ = 0;
}

void TextRows::restart() {
    csv_init(&parser_, 0);
    csv_set_delim(&parser_, static_cast<unsigned char>(separator_));
}

void TextRows::cell(void* text, std::size_t size, void* self) {
    std::string_view cell(static_cast<const char*>(text), size);
    // an apostrophe that keeps a spreadsheet from taking the cell for a formula is no part of it (`csv_cell`)
    const std::size_t kept = cell.find_first_not_of('\'');
    if (kept != 0 && kept != std::string_view::npos &&
        std::string_view("=+-@\t").find(cell[kept]) != std::string_view::npos)
        cell.remove_prefix(1);
    static_cast<TextRows*>(self)->cells_.emplace_back(cell);
}
void TextRows::row(int, void* self) { static_cast<TextRows*>(self)->done_ = true; }

} // namespace fulmox
