#include "core/views/stages.h"

#include "core/base/text_scanner.h"

#include <fmt/format.h>

// The unit of the sheet: a conclusion from several kinds of evidence, never a setting alone.
namespace prism::views {
namespace {

/// How much each kind of evidence counts; what the sheet's own texts say outweighs the file's head, which
/// many programs fill in without being asked.
constexpr double kText = 5, kDeclared = 3, kMarks = 4, kPaper = 1.5, kMeasurement = 1;

void textHints(const Drawing& d, std::vector<UnitHint>& out) {
    constexpr std::pair<const char*, const char*> words[] = {
        {"INCH", "inch"},      {"INCHES", "inch"},    {"MM", "mm"},          {"MILLIMETER", "mm"},
        {"MILLIMETERS", "mm"}, {"MILLIMETRE", "mm"},  {"MILLIMETRES", "mm"}, {"CM", "cm"},
        {"CENTIMETER", "cm"},  {"CENTIMETERS", "cm"}, {"CENTIMETRE", "cm"},  {"CENTIMETRES", "cm"}};
    for (const SheetText& t : d.texts) {
        const std::string up = capitals(std::string_view(t.content).substr(0, TextScanner::kLongest));
        for (const auto& [word, unit] : words) {
            if (findWord(up, word) == std::string::npos) continue;
            std::string line = t.content.substr(0, 40);
            std::replace(line.begin(), line.end(), '\n', ' ');
            out.push_back({unit, kText, fmt::format("the sheet says \"{}\"", line), false});
            return; // the first such text speaks for the sheet
        }
    }
}

/// Foot and inch marks on dimensions.
void markHints(const Drawing& d, std::vector<UnitHint>& out) {
    int marked = 0, lengths = 0;
    for (const Dimension& x : d.dimensions) {
        if (x.kind == DimensionKind::angular) continue;
        ++lengths;
        marked += x.text.find_first_of("'\"") != std::string::npos;
    }
    if (marked > 0 && 2 * marked > lengths)
        out.push_back(
            {"inch", kMarks, fmt::format("{} of {} dimensions carry inch marks", marked, lengths), false});
}

/// A border of a standard size (ISO 5457 A4 to A0; ASME Y14.1 A to E) in one of the units.
void paperHints(const Drawing& d, const CleanSheet& s, std::vector<UnitHint>& out) {
    Box2 border;
    for (const Entity& e : d.entities)
        if (s.entity_roles[e.id] == LineRole::border)
            for (const Curve& c : e.curves) border.add(boxOf(c));
    if (!border.valid()) return;
    struct Paper {
        const char *name, *unit;
        double w, h;
    };
    static constexpr Paper papers[] = {{"A4", "mm", 210, 297},      {"A3", "mm", 420, 297},
                                       {"A2", "mm", 594, 420},      {"A1", "mm", 841, 594},
                                       {"A0", "mm", 1189, 841},     {"8.5 x 11", "inch", 8.5, 11},
                                       {"11 x 17", "inch", 17, 11}, {"17 x 22", "inch", 22, 17},
                                       {"22 x 34", "inch", 34, 22}, {"34 x 44", "inch", 44, 34}};
    for (const Paper& p : papers)
        for (const bool turned : {false, true}) {
            const double w = turned ? p.h : p.w, h = turned ? p.w : p.h;
            const double dw = w - border.width(),
                         dh = h - border.height(); // the border lies within the paper
            if (dw < -1e-3 * w || dh < -1e-3 * h || dw > 0.12 * w || dh > 0.12 * h) continue;
            out.push_back({p.unit, kPaper, fmt::format("the border fits a sheet of {}", p.name), false});
            return;
        }
}

} // namespace

UnitEvidence decideUnit(const Drawing& d, const CleanSheet& s, const ViewChoices& choices) {
    UnitEvidence u;
    u.declared = unitOfCode(d.unit_code);
    textHints(d, u.hints);
    if (u.declared != "none")
        u.hints.push_back(
            {u.declared, kDeclared, fmt::format("the file's head declares {}", u.declared), false});
    markHints(d, u.hints);
    paperHints(d, s, u.hints);
    if (d.metric)
        u.hints.push_back({*d.metric ? "mm" : "inch", kMeasurement,
                           fmt::format("the file's patterns are {}", *d.metric ? "metric" : "imperial"),
                           false});
    std::map<std::string, double> votes;
    for (const UnitHint& h : u.hints) votes[h.unit] += h.weight;
    const auto best = std::max_element(votes.begin(), votes.end(),
                                       [](const auto& a, const auto& b) { return a.second < b.second; });
    const bool told = best != votes.end();
    if (d.on_paper && !choices.unit) { // what its texts say is about its dimensions
        u.used = "mm", u.mm = 1;
        u.reason = "a page is measured in millimetres of paper";
        for (UnitHint& h : u.hints) h.agrees = true;
        return u;
    }
    u.used = choices.unit ? *choices.unit : told ? best->first : "mm";
    for (UnitHint& h : u.hints) h.agrees = h.unit == u.used;
    std::string with, against;
    for (const UnitHint& h : u.hints)
        (h.agrees ? with : against) += (h.agrees ? with : against).empty() ? h.words : ", " + h.words;
    if (choices.unit)
        u.reason = "chosen by hand";
    else
        u.reason = told ? with + (against.empty() ? "" : "; against it: " + against)
                        : "neither declared nor said; mm assumed";
    u.mm = millimetresIn(u.used);
    return u;
}

} // namespace prism::views
