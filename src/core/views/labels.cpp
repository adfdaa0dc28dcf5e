#include "core/views/labels.h"

#include "core/base/text_scanner.h"

namespace prism::views {
namespace {

bool isCapital(char c) {
    return c >= 'A' && c <= 'Z';
}

/// One capital that no other follows.
std::string letterAt(TextScanner s) {
    s.skipSpaces();
    const std::string_view r = s.rest();
    return !r.empty() && isCapital(r[0]) && (r.size() == 1 || !isCapital(r[1])) ? std::string(1, r[0])
                                                                                : std::string();
}

/// The letter of a section: doubled, with a dash between (ISO 128-3).
std::string doubledLetter(const std::string& label) {
    TextScanner s(label);
    s.skipSpaces();
    if (s.takeWord("SECTION")) s.skipSpaces();
    if (!isCapital(s.peek())) return {};
    const std::string letter(1, s.peek());
    s.moveTo(s.position() + 1);
    s.skipSpaces();
    if (!s.take("-")) return {};
    return letterAt(s) == letter ? letter : std::string();
}

/// The letter behind one of these words at the front.
std::string letterBehind(const std::string& label, std::initializer_list<const char*> words) {
    for (const char* word : words) {
        TextScanner s(label);
        s.skipSpaces();
        if (s.takeWord(word)) return letterAt(s);
    }
    return {};
}

} // namespace

std::optional<ViewLabel> readLabel(const std::string& text) {
    static constexpr std::pair<const char*, Role> words[] = {{"FRONT", Role::front},
                                                             {"LEFT", Role::left},
                                                             {"RIGHT", Role::right},
                                                             {"REAR", Role::rear},
                                                             {"BACK", Role::rear},
                                                             {"BOTTOM", Role::bottom},
                                                             {"TOP", Role::top},
                                                             {"PLAN", Role::top},
                                                             {"SECTION", Role::section},
                                                             {"DETAIL", Role::detail},
                                                             {"AUXILIARY", Role::auxiliary},
                                                             {"ISOMETRIC", Role::pictorial},
                                                             {"PICTORIAL", Role::pictorial}};
    const std::string up = capitals(text);
    const std::string pair = doubledLetter(up);
    const std::string letter = !pair.empty() ? pair : letterBehind(up, {"SECTION", "DETAIL", "VIEW"});
    for (auto [word, role] : words)
        if (up.starts_with(word)) return ViewLabel{role, text, letter, ratioIn(up, ":")};
    if (!pair.empty()) return ViewLabel{Role::section, text, letter, ratioIn(up, ":")};
    if (!letterBehind(up, {"VIEW"}).empty())
        return ViewLabel{Role::auxiliary, text, letter, ratioIn(up, ":")};
    return std::nullopt;
}

namespace {

/// From a place to the nearest line of a view, sheet units.
double nearestLine(const Drawing& d, const View& v, Vec2 p) {
    double r = std::numeric_limits<double>::infinity();
    for (int e : v.entities)
        for (const Curve& c : d.entities[e].curves) r = std::min(r, distanceTo(c, p));
    return r;
}

/// Where on a sheet the labels stand.
enum class Stand { anywhere, below, above };

/// The labels of views that lie where they should, each at the nearest view. By view.
std::vector<std::optional<ViewLabel>> labelsStanding(const Drawing& d, const std::vector<View>& views,
                                                     Stand where) {
    std::vector<std::optional<ViewLabel>> r(views.size());
    std::vector<double> nearest(views.size(), std::numeric_limits<double>::infinity());
    for (const SheetText& t : d.texts) {
        if (t.content.size() > 40) continue;
        auto label = readLabel(t.content);
        if (!label) continue;
        int of = -1;
        double least = std::numeric_limits<double>::infinity();
        for (size_t i = 0; i < views.size(); ++i) {
            const Box2& box = views[i].box_sheet;
            if (t.position.x < box.lo.x - t.height * 2 || t.position.x > box.hi.x + t.height * 2) continue;
            const double below = box.lo.y - t.position.y, above = t.position.y - box.hi.y;
            if ((where == Stand::below && above > 0) || (where == Stand::above && below > 0)) continue;
            // The box of an oblique view has empty corners, and its label may stand in one.
            const double gap = box.contains(t.position) ? nearestLine(d, views[i], t.position)
                                                        : std::max({0.0, below, above});
            if (gap > 0.35 * std::max(box.width(), box.height()) + 12) continue;
            if (gap < least) least = gap, of = static_cast<int>(i);
        }
        if (of >= 0 && least < nearest[of]) nearest[of] = least, r[of] = std::move(label);
    }
    return r;
}

} // namespace

std::vector<std::optional<ViewLabel>> labelsOf(const Drawing& d, const std::vector<View>& views) {
    // Between two views a label may stand nearer to the wrong one: if more views have a label once all stand
    // on one side of theirs, they do.
    std::vector<std::optional<ViewLabel>> r = labelsStanding(d, views, Stand::anywhere);
    const auto count = [](const auto& labels) {
        return std::ranges::count_if(labels, [](const auto& l) { return l.has_value(); });
    };
    for (const Stand where : {Stand::below, Stand::above})
        if (auto labels = labelsStanding(d, views, where); count(labels) > count(r)) r = std::move(labels);
    for (size_t i = 0; i < views.size(); ++i)
        for (const Picture& p : d.pictures)
            if (p.region.contains(p.to_sheet.inverse()(views[i].box_sheet.centre())))
                if (auto label = readLabel(p.name)) r[i] = std::move(label);
    return r;
}

} // namespace prism::views
