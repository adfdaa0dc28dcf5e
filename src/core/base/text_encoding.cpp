#include "core/base/text_encoding.h"

#include <algorithm>
#include <cctype>
#include <cerrno>
#include <iconv.h>

namespace prism {
namespace {

/// A converter that closes itself.
class Converter {
  public:
    explicit Converter(const std::string& page) : cd_(iconv_open("UTF-8", page.c_str())) {}
    ~Converter() {
        if (sound()) iconv_close(cd_);
    }
    Converter(const Converter&) = delete;
    Converter& operator=(const Converter&) = delete;
    bool sound() const { return cd_ != reinterpret_cast<iconv_t>(-1); }

    /// Converts as much of `in` as it can and takes that off its front.
    void run(std::string_view& in, std::string& out) {
        char buffer[4096];
        while (!in.empty()) {
            char* from = const_cast<char*>(in.data()); // iconv does not write there
            char* to = buffer;
            size_t left = in.size(), room = sizeof buffer;
            const size_t r = iconv(cd_, &from, &left, &to, &room);
            out.append(buffer, sizeof buffer - room);
            in.remove_prefix(in.size() - left);
            if (r == static_cast<size_t>(-1) && errno != E2BIG) return;
        }
    }

  private:
    iconv_t cd_;
};

void appendLatin(unsigned char c, std::string& out) {
    static const char* const high[32] = {"€", "",  "‚", "ƒ", "„", "…", "†", "‡", "ˆ", "‰", "Š",
                                         "‹", "Œ", "",  "Ž", "",  "",  "‘", "’", "“", "”", "•",
                                         "–", "—", "˜", "™", "š", "›", "œ", "",  "ž", "Ÿ"};
    if (c < 0x80)
        out += static_cast<char>(c);
    else if (c < 0xA0)
        out += high[c - 0x80];
    else {
        out += static_cast<char>(0xC0 | (c >> 6));
        out += static_cast<char>(0x80 | (c & 0x3F));
    }
}

} // namespace

bool isUtf8(std::string_view s) {
    for (size_t i = 0; i < s.size();) {
        const auto c = static_cast<unsigned char>(s[i]);
        const int more = c < 0x80 ? 0 : (c >> 5) == 6 ? 1 : (c >> 4) == 14 ? 2 : (c >> 3) == 30 ? 3 : -1;
        if (more < 0 || i + more >= s.size()) return false;
        for (int k = 1; k <= more; ++k)
            if ((static_cast<unsigned char>(s[i + k]) >> 6) != 2) return false;
        i += more + 1;
    }
    return true;
}

std::string utf8From(std::string_view bytes, const std::string& page) {
    std::string out;
    out.reserve(bytes.size() + bytes.size() / 8);
    Converter c(page);
    while (!bytes.empty()) {
        if (c.sound()) c.run(bytes, out);
        if (bytes.empty()) break;
        appendLatin(static_cast<unsigned char>(bytes.front()), out);
        bytes.remove_prefix(1);
    }
    return out;
}

std::string codePageNamed(std::string_view declared) {
    std::string s;
    for (char c : declared)
        if (!std::isspace(static_cast<unsigned char>(c)))
            s += static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    const auto digits = std::find_if(s.begin(), s.end(), [](unsigned char c) { return std::isdigit(c); });
    const std::string number(digits, s.end());
    if (s.starts_with("ANSI_") || s.starts_with("DOS")) {
        if (number == "932") return "CP932";
        if (number == "1361") return "JOHAB";
        if (!number.empty()) return "CP" + number;
    }
    if (s.starts_with("ISO8859") && number.size() > 4) return "ISO-8859-" + number.substr(5);
    if (s == "GB2312" || s == "BIG5" || s == "JOHAB") return s;
    if (s == "KSC5601") return "CP949";
    return "CP1252";
}

} // namespace prism
