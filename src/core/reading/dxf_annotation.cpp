#include "core/drawing/dimension_measure.h"
#include "core/drawing/length_text.h"
#include "core/reading/dxf_file.h"

#include <fmt/format.h>

namespace prism::dxf {
namespace {

constexpr double kDegree = kPi / 180;

std::string mtextContent(const Record& r) {
    std::string s;
    for (const Tag& t : r.tags)
        if (t.code == 3 && r.type == "MTEXT") s += std::string(t.value);
    return s + std::string(r.text(1));
}

std::string formatted(double v, int decimals, int zeros, int separator) {
    std::string s = fmt::format("{:.{}f}", v, decimals);
    if ((zeros & 8) && s.find('.') != std::string::npos) {
        while (s.back() == '0') s.pop_back();
        if (s.back() == '.') s.pop_back();
    }
    if ((zeros & 4) && s.starts_with("0.")) s.erase(0, 1);
    if (separator == ',')
        for (char& c : s)
            if (c == '.') c = ',';
    return s;
}

std::string measurementText(const Dimension& d, const DimensionStyle& s) {
    double v = d.measured;
    if (s.rounding > 0 && d.kind != DimensionKind::angular) v = std::round(v / s.rounding) * s.rounding;
    if (d.kind == DimensionKind::angular)
        return formatted(v, s.angular_decimals < 0 ? s.decimals : s.angular_decimals, 8, s.separator) + "°";
    std::string n = s.unit_format == 4 || s.unit_format == 5
                        ? writeFraction(v, s.decimals, s.unit_format == 4)
                        : formatted(v, s.decimals, s.zero_suppression, s.separator);
    if (s.post.find("<>") != std::string::npos)
        n = std::string(s.post).replace(s.post.find("<>"), 2, n);
    else
        n += s.post;
    if (d.kind == DimensionKind::radius) return "R" + n;
    if (d.kind == DimensionKind::diameter) return "Ø" + n;
    return n;
}

std::string toleranceText(const DimensionStyle& s) {
    if (!s.tolerance) return {};
    auto n = [&](double v) { return formatted(v, 4, 8, s.separator); };
    if (s.plus == s.minus) return " ±" + n(s.plus);
    return fmt::format(" +{}/-{}", n(s.plus), n(s.minus));
}

DimensionStyle styleOf(const Record& r, const File& f) {
    const bool onPaper = r.integer(67) == 1;
    DimensionStyle s;
    if (auto h = f.header.find("$DIMLFAC"); h != f.header.end() && !h->second.empty())
        s.factor = toNumber(h->second.front().value);
    if (auto it = f.styles.find(upper(r.text(3))); it != f.styles.end()) s = it->second;
    bool inside = false;
    for (size_t i = 0; i + 1 < r.tags.size(); ++i) { // overrides: extended data, pairs of code and value
        if (r.tags[i].code == 1000 && r.tags[i].value == "DSTYLE") inside = true;
        if (inside && r.tags[i].code == 1070) {
            s.set(toInteger(r.tags[i].value), r.tags[i + 1].value);
            ++i;
        }
    }
    if (s.factor == 0) s.factor = 1;
    if (s.factor < 0) s.factor = onPaper ? -s.factor : 1; // negative: meant for paper layouts only
    return s;
}

DimensionKind kindOf(int flags) {
    switch (flags & 7) {
    case 1:
        return DimensionKind::aligned;
    case 2:
    case 5:
        return DimensionKind::angular;
    case 3:
        return DimensionKind::diameter;
    case 4:
        return DimensionKind::radius;
    case 6:
        return DimensionKind::ordinate;
    default:
        return DimensionKind::linear;
    }
}

} // namespace

namespace {

/// The note of a MULTILEADER; its values stand in the context data, which ends at the first leader.
SheetText leaderNote(const Record& r) {
    SheetText t;
    t.handle = std::string(r.text(5));
    bool context = false;
    for (const Tag& g : r.tags) {
        if (g.code == 300) context = true;
        if (g.code == 302) break;
        if (!context) continue;
        if (g.code == 304) t.content = plainText(std::string(g.value), true);
        if (g.code == 12) t.position.x = toNumber(g.value);
        if (g.code == 22) t.position.y = toNumber(g.value);
        if (g.code == 41) t.height = std::abs(toNumber(g.value));
        if (g.code == 42) t.rotation = toNumber(g.value);
    }
    t.valign = 1;
    return t;
}

} // namespace

SheetText textOf(const Record& r) {
    if (r.type == "MULTILEADER") return leaderNote(r);
    SheetText t;
    t.handle = std::string(r.text(5));
    t.height = std::abs(r.number(40, 2.5));
    const bool formattedText = r.type == "MTEXT" || r.type == "TOLERANCE";
    t.content = plainText(formattedText ? mtextContent(r) : std::string(r.text(1)), formattedText);
    if (formattedText) {
        t.position = r.point(10);
        const int attach = r.type == "MTEXT" ? std::clamp(r.integer(71, 1), 1, 9) - 1 : 3;
        t.halign = attach % 3 - 1;
        t.valign = 1 - attach / 3;
        t.rotation = r.has(11) ? angleOf(r.point(11)) : r.number(50) * kDegree;
        return t;
    }
    t.rotation = r.number(50) * kDegree;
    const int h = r.integer(72), v = r.integer(73);
    const bool aligned = (h != 0 || v != 0) && r.has(11);
    t.position = r.point(aligned && h != 3 && h != 5 ? 11 : 10);
    t.halign = h == 1 || h == 4 ? 0 : h == 2 ? 1 : -1;
    t.valign = v == 3 ? 1 : v == 2 || h == 4 ? 0 : -1;
    return t;
}

Dimension dimensionOf(const Record& r, const File& f) {
    Dimension d;
    const DimensionStyle s = styleOf(r, f);
    const int flags = r.integer(70);
    d.handle = std::string(r.text(5));
    d.style = std::string(r.text(3));
    d.kind = r.type == "LARGE_RADIAL_DIMENSION" ? DimensionKind::radius : kindOf(flags);
    d.three_point = (flags & 7) == 5;
    d.ordinate_x = (flags & 64) != 0;
    d.p10 = r.point(10);
    d.p13 = r.point(13);
    d.p14 = r.point(14);
    d.p15 = r.point(15);
    d.p16 = r.point(16);
    d.angle = r.number(50) * kDegree;
    d.text_at = r.point(11);
    d.factor = s.factor;
    d.text_height = s.text_height * (s.scale > 0 ? s.scale : 1);
    d.arrow_size = s.arrow_size * (s.scale > 0 ? s.scale : 1);
    d.measured = measuredOf(d);
    d.text_field = std::string(r.text(1));
    const std::string plain = measurementText(d, s) + toleranceText(s);
    if (d.text_field.empty())
        d.text = plain;
    else {
        d.text = plainText(d.text_field, true);
        if (const size_t at = d.text.find("<>"); at != std::string::npos) d.text.replace(at, 2, plain);
        d.overridden = d.text_field != "<>";
    }
    readDimensionText(d);
    // The plain measurement keeps all its digits; only a text of its own says another value.
    if (d.text_field.empty() || d.text_field.find("<>") != std::string::npos) d.value = d.measured;
    if (s.tolerance) d.plus = s.plus, d.minus = s.minus, d.has_tolerance = true;
    return d;
}

} // namespace prism::dxf
