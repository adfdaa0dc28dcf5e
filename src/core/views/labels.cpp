#include "core/views/labels.h"

#include <regex>

namespace prism::finding {
namespace {

/// A scale behind a label: (2:1), SCALE 1:2, 5:1.
std::optional<double> scaleIn(const std::string& label) {
    static const std::regex ratio(R"((\d+(?:[.,]\d+)?)\s*:\s*(\d+(?:[.,]\d+)?))");
    std::smatch m;
    if (!std::regex_search(label, m, ratio)) return std::nullopt;
    const double a = std::strtod(m[1].str().c_str(), nullptr), b = std::strtod(m[2].str().c_str(), nullptr);
    return a > 0 && b > 0 ? std::optional(a / b) : std::nullopt;
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
                                                             {"ISOMETRIC", Role::pictorial},
                                                             {"PICTORIAL", Role::pictorial}};
    // Letters of ISO 128-3: one capital, sections doubled with a dash between.
    static const std::regex doubled(R"(^\s*(?:SECTION\s+)?([A-Z])\s*-\s*\1(?![A-Z]))"),
        single(R"(^\s*(?:SECTION|DETAIL|VIEW)\s+([A-Z])(?![A-Z]))"), arrow(R"(^\s*VIEW\s+[A-Z](?![A-Z]))");
    std::string up = text;
    for (char& c : up) c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    std::smatch m;
    const bool pair = std::regex_search(up, m, doubled);
    std::string letter = pair ? m[1].str() : std::string();
    if (!pair && std::regex_search(up, m, single)) letter = m[1].str();
    for (auto [word, role] : words)
        if (up.starts_with(word)) return ViewLabel{role, text, letter, scaleIn(up)};
    if (pair) return ViewLabel{Role::section, text, letter, scaleIn(up)};
    if (std::regex_search(up, arrow)) return ViewLabel{Role::auxiliary, text, letter, scaleIn(up)};
    return std::nullopt;
}

std::vector<std::optional<ViewLabel>> labelsOf(const Drawing& d, const std::vector<View>& views) {
    std::vector<std::optional<ViewLabel>> r(views.size());
    std::vector<double> nearest(views.size(), std::numeric_limits<double>::infinity());
    for (const SheetText& t : d.texts) {
        if (t.content.size() > 40) continue;
        int of = -1;
        double least = std::numeric_limits<double>::infinity();
        for (size_t i = 0; i < views.size(); ++i) {
            const Box2& box = views[i].box_sheet;
            if (t.position.x < box.lo.x - t.height * 2 || t.position.x > box.hi.x + t.height * 2) continue;
            const double gap = std::max({0.0, box.lo.y - t.position.y, t.position.y - box.hi.y});
            if (gap > 0.35 * std::max(box.width(), box.height()) + 12 || box.contains(t.position)) continue;
            if (gap < least) least = gap, of = static_cast<int>(i);
        }
        if (of < 0 || least >= nearest[of]) continue;
        if (auto label = readLabel(t.content)) nearest[of] = least, r[of] = std::move(label);
    }
    for (size_t i = 0; i < views.size(); ++i)
        for (const Picture& p : d.pictures)
            if (p.region.contains(p.to_sheet.inverse()(views[i].box_sheet.centre())))
                if (auto label = readLabel(p.name)) r[i] = std::move(label);
    return r;
}

} // namespace prism::finding
