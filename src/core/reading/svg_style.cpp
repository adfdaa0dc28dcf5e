#include "core/reading/svg_style.h"

#include "core/reading/svg_path.h"

#include <cctype>
#include <charconv>
#include <sstream>

namespace prism::svg {
namespace {

std::string trimmed(std::string_view s) {
    while (!s.empty() && std::isspace(static_cast<unsigned char>(s.front()))) s.remove_prefix(1);
    while (!s.empty() && std::isspace(static_cast<unsigned char>(s.back()))) s.remove_suffix(1);
    return std::string(s);
}

std::map<std::string, std::string> declarationsIn(const std::string& text) {
    std::map<std::string, std::string> r;
    std::istringstream in(text);
    for (std::string d; std::getline(in, d, ';');)
        if (const size_t colon = d.find(':'); colon != std::string::npos)
            r[trimmed(d.substr(0, colon))] = trimmed(std::string_view(d).substr(colon + 1));
    return r;
}

void take(Style& s, const std::string& name, const std::string& value) {
    if (value.empty() || value == "inherit") return;
    if (name == "stroke")
        s.stroke = value;
    else if (name == "fill")
        s.fill = value;
    else if (name == "stroke-width")
        s.width = lengthIn(value, 100).value_or(s.width);
    else if (name == "stroke-dasharray")
        s.dashes = value == "none" ? std::vector<double>{} : numbersIn(value);
    else if ((name == "display" && value == "none") || (name == "opacity" && value == "0"))
        s.shown = false;
    else if (name == "visibility")
        s.shown = s.shown && value == "visible";
    else if (name == "font-size")
        s.font_size = lengthIn(value, s.font_size).value_or(s.font_size);
    else if (name == "text-anchor")
        s.anchor = value;
}

void takeRule(Style& s, const Rules& rules, const std::string& selector) {
    const auto it = rules.find(selector);
    if (it == rules.end()) return;
    for (const auto& [name, value] : it->second) take(s, name, value);
}

} // namespace

Rules rulesIn(const std::string& css) {
    Rules r;
    for (size_t at = 0; at < css.size();) {
        const size_t open = css.find('{', at), close = css.find('}', open);
        if (open == std::string::npos || close == std::string::npos) break;
        std::istringstream selectors(css.substr(at, open - at));
        for (std::string s; std::getline(selectors, s, ',');)
            for (const auto& [name, value] : declarationsIn(css.substr(open + 1, close - open - 1)))
                r[trimmed(s)][name] = value;
        at = close + 1;
    }
    return r;
}

Style styleOf(const pugi::xml_node& node, const Style& inherited, const Rules& rules) {
    Style s = inherited;
    for (const auto& a : node.attributes()) take(s, a.name(), a.value());
    takeRule(s, rules, node.name());
    std::istringstream classes(node.attribute("class").value());
    for (std::string c; classes >> c;) takeRule(s, rules, "." + c);
    takeRule(s, rules, std::string("#") + node.attribute("id").value());
    for (const auto& [name, value] : declarationsIn(node.attribute("style").value())) take(s, name, value);
    return s;
}

Affine2 transformIn(std::string_view text) {
    Affine2 m;
    while (true) {
        const size_t open = text.find('('), close = text.find(')', open);
        if (open == std::string_view::npos || close == std::string_view::npos) return m;
        std::string name = trimmed(text.substr(0, open));
        while (!name.empty() && (name[0] == ',' || std::isspace(static_cast<unsigned char>(name[0]))))
            name.erase(0, 1);
        std::vector<double> n = numbersIn(text.substr(open + 1, close - open - 1));
        n.resize(6 + n.size());
        const size_t given = n.size() - 6;
        const double rad = n[0] * kPi / 180;
        if (name == "matrix")
            m = m * Affine2{n[0], n[1], n[2], n[3], n[4], n[5]};
        else if (name == "translate")
            m = m * Affine2::shift({n[0], n[1]});
        else if (name == "scale")
            m = m * Affine2::scale(n[0], given > 1 ? n[1] : n[0]);
        else if (name == "rotate")
            m = m * Affine2::shift({n[1], n[2]}) * Affine2::rotation(rad) * Affine2::shift({-n[1], -n[2]});
        else if (name == "skewX")
            m = m * Affine2{1, 0, std::tan(rad), 1, 0, 0};
        else if (name == "skewY")
            m = m * Affine2{1, std::tan(rad), 0, 1, 0, 0};
        text.remove_prefix(close + 1);
    }
}

std::optional<double> lengthIn(std::string_view text, double whole) {
    const std::string t = trimmed(text);
    double v = 0;
    const char* from = t.data() + (t.starts_with('+') ? 1 : 0);
    const auto r = std::from_chars(from, t.data() + t.size(), v);
    if (r.ec != std::errc{} || !std::isfinite(v)) return std::nullopt;
    const std::string_view unit(r.ptr, static_cast<size_t>(t.data() + t.size() - r.ptr));
    if (unit == "%") return v / 100 * whole;
    if (unit == "mm") return v * 96 / 25.4;
    if (unit == "cm") return v * 96 / 2.54;
    if (unit == "in") return v * 96;
    if (unit == "pt") return v * 96 / 72;
    if (unit == "pc") return v * 16;
    return v;
}

} // namespace prism::svg
