#include "core/reporting/report.h"

#include <fmt/format.h>

namespace prism {
namespace {

std::string escaped(std::string_view s) {
    std::string r;
    for (const char c : s) switch (c) {
        case '&':
            r += "&amp;";
            break;
        case '<':
            r += "&lt;";
            break;
        case '>':
            r += "&gt;";
            break;
        case '"':
            r += "&quot;";
            break;
        default:
            r += c;
        }
    return r;
}

const char* classOf(Pen p) {
    constexpr std::array names{"outline", "hidden", "thin", "marked"};
    return names[static_cast<size_t>(p)];
}

/// SVG counts downwards.
std::string svgOf(const ReportPicture& p) {
    std::string r =
        fmt::format("<svg viewBox=\"0 0 {0:.2f} {1:.2f}\" style=\"width:{0:.2f}mm\">\n", p.size.x, p.size.y);
    for (const auto& s : p.strokes) {
        r += fmt::format("<path class=\"{}\" d=\"", classOf(s.pen));
        for (size_t i = 0; i < s.points.size(); ++i)
            r += fmt::format("{}{:.3f} {:.3f}", i ? "L" : "M", s.points[i].x, p.size.y - s.points[i].y);
        r += "\"/>\n";
    }
    for (const auto& w : p.words)
        r += fmt::format("<text class=\"{}\" font-size=\"{:.2f}\" transform=\"translate({:.3f} {:.3f}) "
                         "rotate({:.2f})\" text-anchor=\"middle\" dominant-baseline=\"central\">{}</text>\n",
                         classOf(w.pen), w.height, w.middle.x, p.size.y - w.middle.y, -w.rotation * 180 / kPi,
                         escaped(w.text));
    return r + "</svg>\n";
}

std::string tableOf(const ReportTable& t) {
    std::string r = "<table>\n<colgroup>";
    for (double share : t.shares) r += fmt::format("<col style=\"width:{:.0f}%\">", 100 * share);
    r += "</colgroup>\n<tr>";
    for (const std::string& h : t.heads) r += fmt::format("<th>{}</th>", escaped(h));
    r += "</tr>\n";
    for (const auto& row : t.rows) {
        r += "<tr>";
        for (const std::string& c : row) r += fmt::format("<td>{}</td>", escaped(c));
        r += "</tr>\n";
    }
    return r + "</table>\n";
}

constexpr const char* kStyle = R"(
body { font-family: sans-serif; font-size: 10pt; color: #24262b; max-width: 186mm; margin: 12mm auto; }
h1 { font-size: 16pt; margin: 0 0 2mm; } h2 { font-size: 11pt; margin: 6mm 0 2mm; border-bottom: 1px solid #b9b4a6; }
p { margin: 1mm 0; } p.verdict { font-weight: bold; }
table { border-collapse: collapse; width: 100%; } th, td { text-align: left; vertical-align: top; padding: 0.6mm 2mm 0.6mm 0; }
th { font-weight: normal; color: #6a675f; } tr { border-bottom: 1px solid #e4e0d4; }
svg { max-width: 100%; height: auto; } svg path { fill: none; }
.outline { stroke: #24262b; stroke-width: 0.4; } .hidden { stroke: #24262b; stroke-width: 0.25; stroke-dasharray: 1.4 0.8; }
.thin { stroke: #6a675f; stroke-width: 0.15; } .marked { stroke: #c2391b; stroke-width: 0.4; }
text.thin { fill: #6a675f; stroke: none; } text.marked { fill: #c2391b; stroke: none; font-weight: bold; }
@media print { body { margin: 0; } }
)";

} // namespace

std::string htmlOf(const Report& r) {
    std::string s = fmt::format(
        "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<title>{0}</title>\n"
        "<style>{1}</style>\n</head>\n<body>\n<h1>{0}</h1>\n<p class=\"verdict\">{2}</p>\n",
        escaped(r.title), kStyle, escaped(r.verdict));
    for (const ReportPart& p : r.parts) {
        s += fmt::format("<h2>{}</h2>\n", escaped(p.heading));
        for (const std::string& text : p.paragraphs) s += fmt::format("<p>{}</p>\n", escaped(text));
        if (p.picture) s += svgOf(*p.picture);
        if (!p.table.rows.empty()) s += tableOf(p.table);
    }
    return s + "</body>\n</html>\n";
}

} // namespace prism
