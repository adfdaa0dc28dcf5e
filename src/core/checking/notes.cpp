#include "core/base/text_scanner.h"
#include "core/checking/finding.h"

#include <fmt/format.h>

// Notes that hold for the whole sheet, against each other.
namespace prism::checking {
namespace {

/// What a note says of the whole sheet: of what, and in a form that can be compared.
struct Said {
    std::string of;
    double value = 0;
    const SheetText* text = nullptr;
};

/// The number behind a word of a note, as in "ALL FILLETS R3", "UNMARKED RADII 2,5 MM", "CHAMFERS 1 X 45".
std::optional<double> sizeBehind(const std::string& capital_text, size_t at) {
    TextScanner s(std::string_view(capital_text).substr(at));
    constexpr int kMostWords = 3; // between: ARE, TO BE, =
    for (int word = 0; word <= kMostWords && !s.atEnd(); ++word) {
        while (!s.atEnd() && !TextScanner::isLetter(s.peek()) && !s.atDigit()) s.moveTo(s.position() + 1);
        const size_t before = s.position();
        if (s.peek() == 'R') s.moveTo(before + 1);
        if (s.atDigit()) return s.number();
        s.moveTo(before);
        while (TextScanner::isLetter(s.peek())) s.moveTo(s.position() + 1);
    }
    return std::nullopt;
}

/// "ALL", "UNMARKED" and the like with one of the words for what is rounded or cut off all over the part.
std::optional<Said> generalSize(const SheetText& t) {
    const std::string up = capitals(std::string_view(t.content).substr(0, TextScanner::kLongest));
    const auto says = [&](std::string_view word) { return findWord(up, word) != std::string::npos; };
    if (!says("ALL") && !says("UNMARKED") && !says("UNSPECIFIED") && !says("OTHERWISE") && !says("GENERAL"))
        return std::nullopt;
    for (const auto& [one, many, of] :
         {std::tuple{"FILLET", "FILLETS", "fillets"}, std::tuple{"ROUND", "ROUNDS", "rounds"},
          std::tuple{"RADIUS", "RADII", "radii"}, std::tuple{"CHAMFER", "CHAMFERS", "chamfers"}})
        for (const std::string_view word : {std::string_view(one), std::string_view(many)})
            if (const size_t at = findWord(up, word); at != std::string::npos)
                if (const auto size = sizeBehind(up, at + word.size())) return Said{of, *size, &t};
    return std::nullopt;
}

} // namespace

void notes(const CheckInput& in, std::vector<Finding>& out) {
    std::vector<Said> all;
    const bool one_part = in.views.parts.size() <= 1; // else each may have notes of its own
    for (const SheetText& t : in.drawing.texts) {
        if (const auto angle = angleSaidIn(t))
            all.push_back({"projection angle", angle == Convention::first ? 1.0 : 3.0, &t});
        if (auto size = one_part ? generalSize(t) : std::nullopt) all.push_back(std::move(*size));
    }
    for (size_t i = 0; i < all.size(); ++i)
        for (size_t j = 0; j < i; ++j) {
            if (all[i].of != all[j].of || std::abs(all[i].value - all[j].value) <= 1e-9) continue;
            Finding f;
            f.kind = "notes_contradict";
            f.message = fmt::format("Two notes contradict each other on the {}: \"{}\" and \"{}\"", all[i].of,
                                    all[j].text->content, all[i].text->content);
            f.repair = "Mark up the one that is wrong";
            for (const Said* s : {&all[j], &all[i]}) {
                f.handles.push_back(s->text->handle);
                f.at_sheet.push_back(s->text->position);
            }
            out.push_back(std::move(f));
            break; // a third one that says the same is told with the first of them only
        }
}

} // namespace prism::checking
