#include "core/building/hole_note.h"

#include "core/base/text_scanner.h"

#include <fmt/format.h>
#include <map>

namespace prism {
namespace {

enum class Word {
    diameter,
    radius,
    deep,
    through,
    counterbore,
    countersink,
    spot_face,
    degrees,
    times,
    thread,
    holes,
    filler
};

struct Token {
    std::optional<double> number;
    Word word = Word::filler;
};

/// Signs that stand for words on drawings (ISO 129-1, ISO 15786).
std::string withoutSigns(const std::string& text) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 14> kSigns{
        {{"%%c", " dia "},
         {"%%C", " dia "},
         {"%%d", " deg "},
         {"%%D", " deg "},
         {"\u2300", " dia "},
         {"\u00D8", " dia "},
         {"\u00F8", " dia "},
         {"\u03A6", " dia "},
         {"\u00B0", " deg "},
         {"\u21A7", " deep "},
         {"\u2334", " counterbore "},
         {"\u2335", " countersink "},
         {"\u00D7", " x "},
         {"\\P", " "}}};
    std::string r;
    for (size_t i = 0; i < text.size() && i < TextScanner::kLongest;) {
        const auto sign = std::ranges::find_if(
            kSigns, [&](const auto& s) { return std::string_view(text).substr(i).starts_with(s.first); });
        if (sign == kSigns.end()) {
            r += text[i++];
            continue;
        }
        r += sign->second;
        i += sign->first.size();
    }
    return r;
}

std::optional<Word> wordOf(const std::string& w) {
    static const std::map<std::string, Word> words{{"DIA", Word::diameter},
                                                   {"DIAMETER", Word::diameter},
                                                   {"D", Word::diameter},
                                                   {"R", Word::radius},
                                                   {"DEEP", Word::deep},
                                                   {"DEPTH", Word::deep},
                                                   {"DP", Word::deep},
                                                   {"THROUGH", Word::through},
                                                   {"THRU", Word::through},
                                                   {"COUNTERBORE", Word::counterbore},
                                                   {"COUNTERBORED", Word::counterbore},
                                                   {"CBORE", Word::counterbore},
                                                   {"COUNTERSINK", Word::countersink},
                                                   {"COUNTERSUNK", Word::countersink},
                                                   {"CSK", Word::countersink},
                                                   {"SPOTFACE", Word::spot_face},
                                                   {"SPOT", Word::spot_face},
                                                   {"DEG", Word::degrees},
                                                   {"DEGREES", Word::degrees},
                                                   {"X", Word::times},
                                                   {"M", Word::thread},
                                                   {"HOLE", Word::holes},
                                                   {"HOLES", Word::holes},
                                                   {"DRILL", Word::filler},
                                                   {"BORE", Word::filler},
                                                   {"TAP", Word::filler},
                                                   {"FACE", Word::filler},
                                                   {"OFF", Word::times},
                                                   {"ALL", Word::filler},
                                                   {"MM", Word::filler},
                                                   {"TO", Word::filler},
                                                   {"AT", Word::filler},
                                                   {"AND", Word::filler}};
    const auto it = words.find(w);
    return it == words.end() ? std::nullopt : std::optional(it->second);
}

/// The note in words and numbers; none when there is a word that no hole has.
std::optional<std::vector<Token>> tokensOf(const std::string& text) {
    std::vector<Token> r;
    TextScanner scan(text);
    for (scan.skipSpaces(); !scan.atEnd(); scan.skipSpaces()) {
        if (const auto number = scan.number()) {
            r.push_back({*number, Word::filler});
            continue;
        }
        std::string letters;
        for (; TextScanner::isLetter(scan.peek()); scan.moveTo(scan.position() + 1)) letters += scan.peek();
        if (letters.empty()) {
            if (std::string_view(",;/()-").find(scan.peek()) == std::string_view::npos) return std::nullopt;
            scan.moveTo(scan.position() + 1);
            continue;
        }
        const auto word = wordOf(capitals(letters));
        if (!word) return std::nullopt;
        r.push_back({std::nullopt, *word});
    }
    return r;
}

} // namespace

std::optional<HoleNote> readHoleNote(const std::string& text, double mm) {
    const auto tokens = tokensOf(withoutSigns(text));
    if (!tokens) return std::nullopt;
    HoleNote n;
    HoleShape& h = n.shape;
    bool wide = false; // what is said now is of the counterbore, countersink or spot face
    Word expects = Word::filler;
    for (size_t i = 0; i < tokens->size(); ++i) {
        const Token& t = (*tokens)[i];
        const auto next = [&](Word w) {
            return i + 1 < tokens->size() && !(*tokens)[i + 1].number && (*tokens)[i + 1].word == w;
        };
        if (!t.number) {
            switch (t.word) {
            case Word::counterbore:
            case Word::countersink:
            case Word::spot_face:
                wide = true, expects = Word::diameter;
                h.kind = t.word == Word::counterbore   ? HoleKind::counterbore
                         : t.word == Word::countersink ? HoleKind::countersink
                                                       : HoleKind::spot_face;
                break;
            case Word::through:
                n.through = true;
                break;
            case Word::filler:
            case Word::holes:
                break;
            default:
                expects = t.word;
            }
            continue;
        }
        const double v = *t.number;
        // "4x dia 8 deep 12", "4 holes", but "8 dia drill 12 deep": some write the word behind its number.
        const bool follows = i + 2 < tokens->size() && (*tokens)[i + 2].number;
        const bool said = follows && next(Word::diameter);
        const bool counts = i == 0 && v == std::floor(v) && v >= 1 && v < 1000 &&
                            (next(Word::times) || next(Word::holes) || said);
        if (counts)
            n.count = static_cast<int>(v);
        else if (next(Word::degrees))
            (h.kind == HoleKind::countersink ? h.sink_angle : h.point) = v * kPi / 180;
        else if (expects == Word::thread)
            h.thread = fmt::format("M{:g}", v);
        else if (expects == Word::times && !h.thread.empty())
            h.pitch = v * mm;
        else if (expects == Word::deep || (!follows && next(Word::deep)))
            (wide ? h.wide_depth : h.depth) = v * mm;
        else if (expects == Word::radius)
            (wide ? h.wide : h.diameter) = 2 * v * mm;
        else
            (wide ? h.wide : h.diameter) = v * mm;
        expects = Word::filler;
    }
    if (!h.diameter.given() && h.thread.empty()) return std::nullopt;
    return n;
}

} // namespace prism
