#include "core/reading/dxf_interpreter.h"

#include <fmt/format.h>
#include <set>

namespace prism::dxf {
namespace {

constexpr int kDeepestBlock = 32;
constexpr size_t kMostEntities = 4'000'000;

} // namespace

/// Takes one record with whatever belongs to it (vertices, attributes); returns the index of the next.
size_t Interpreter::one(std::span<const Record> list, size_t i, const Context& c) {
    const Record& r = list[i];
    size_t next = i + 1;
    const bool withParts = r.type == "POLYLINE" || (r.type == "INSERT" && r.integer(66) != 0);
    if (withParts)
        while (next < list.size() && (list[next].type == "VERTEX" || list[next].type == "ATTRIB")) ++next;
    const auto parts = list.subspan(i + 1, next - i - 1);
    if (withParts && next < list.size() && list[next].type == "SEQEND") ++next;
    if (c.depth == 0) ++d_.counts[std::string(r.type)];
    if (c.viewport && r.has(8)) {
        const int layer = layerOf(r, c);
        if (std::find(c.viewport->frozen.begin(), c.viewport->frozen.end(), layer) !=
            c.viewport->frozen.end())
            return notRead(r.type, "its layer is switched off in the window of this paper layout"), next;
    }
    if (r.type == "INSERT") {
        insert(r, c);
        for (const Record& a : parts) text(a, c);
    } else if (r.type == "DIMENSION" || r.type == "LARGE_RADIAL_DIMENSION")
        dimension(r, c);
    else if (r.type == "TEXT" || r.type == "MTEXT" || r.type == "ATTRIB" || r.type == "TOLERANCE")
        text(r, c);
    else if (r.type == "VIEWPORT") {
        if (showsModel(r)) viewport(r);
    } else if (r.type == "MULTILEADER") {
        text(r, c);
        curves(r, parts, c);
    } else if (r.type == "ATTDEF")
        notRead(r.type, "a pattern for attributes, not drawn");
    else
        curves(r, parts, c);
    return next;
}

std::string Interpreter::path(const Context& c, const Record& r) const {
    const std::string h(r.text(5));
    return c.path.empty() ? h : c.path + "/" + h;
}

int Interpreter::layerOf(const Record& r, const Context& c) {
    std::string name = std::string(r.text(8));
    if (name.empty()) name = "0";
    if (name == "0" && c.layer >= 0) return c.layer;
    const auto [it, fresh] = file_.layer_index.emplace(name, static_cast<int>(d_.layers.size()));
    if (fresh) d_.layers.push_back({name, "CONTINUOUS", 7, true});
    return it->second;
}

void Interpreter::style(const Record& r, const Context& c, Entity& e) const {
    const std::string lt = upper(r.text(6));
    if (lt.empty() || lt == "BYLAYER")
        e.line_type = d_.layers[e.layer].line_type;
    else if (lt == "BYBLOCK")
        e.line_type = c.line_type;
    else
        e.line_type = lt;
    const int color = r.integer(62, 256);
    e.color = color == 256 ? d_.layers[e.layer].color : color == 0 ? c.color : std::abs(color);
}

void Interpreter::insert(const Record& r, const Context& c) {
    const auto it = file_.blocks.find(upper(std::string(r.text(2))));
    if (it == file_.blocks.end())
        return notRead("INSERT", fmt::format("its block \"{}\" is not in the file", std::string(r.text(2))));
    if (c.depth >= kDeepestBlock)
        return notRead("INSERT", "blocks nested more than 32 deep, or within themselves");
    Context in = c;
    in.depth = c.depth + 1;
    in.layer = layerOf(r, c);
    in.path = path(c, r);
    in.block = it->second.name;
    Entity e;
    e.layer = in.layer;
    style(r, c, e);
    in.line_type = e.line_type;
    in.color = e.color;
    const Affine2 turn = Affine2::rotation(r.number(50) * kPi / 180);
    const Affine2 size = Affine2::scale(r.number(41, 1), r.number(42, 1));
    constexpr int kMost = 1000; // in a row or a column; more is a slip, or meant to fill the memory
    const int columns = std::clamp(r.integer(70, 1), 1, kMost), rows = std::clamp(r.integer(71, 1), 1, kMost);
    if (r.integer(70, 1) > kMost || r.integer(71, 1) > kMost)
        notRead("INSERT", fmt::format("an array of {} by {}: only {} by {} of it are read", r.integer(70, 1),
                                      r.integer(71, 1), columns, rows));
    for (int i = 0; i < columns; ++i)
        for (int j = 0; j < rows; ++j) {
            const Vec2 step{i * r.number(44), j * r.number(45)};
            in.map = c.map * planeOf(r) * Affine2::shift(r.point(10)) * turn * Affine2::shift(step) * size *
                     Affine2::shift(-it->second.base);
            records(it->second.records, in);
        }
}

/// The text in the block that draws a dimension: what people see, whatever the style would make of it.
std::string Interpreter::shownText(const Record& r) const {
    const auto it = file_.blocks.find(upper(std::string(r.text(2))));
    if (it == file_.blocks.end()) return {};
    for (const Record& k : it->second.records)
        if (k.type == "MTEXT" || k.type == "TEXT") {
            std::string text = textOf(k).content;
            if (text.find_first_of("0123456789") != std::string::npos) return text;
        }
    return {};
}

void Interpreter::dimension(const Record& r, const Context& c) {
    Dimension d = dimensionOf(r, file_);
    if (const std::string shown = shownText(r); !shown.empty() && !d.overridden) d.text = shown;
    d.id = static_cast<int>(d_.dimensions.size());
    d.layer = layerOf(r, c);
    d.block_path = c.path;
    for (Vec2* p : {&d.p10, &d.p13, &d.p14, &d.p15, &d.p16, &d.text_at}) *p = c.map(*p);
    const double grow = std::sqrt(std::abs(c.map.determinant()));
    if (grow > 0) d.factor /= grow, d.text_height *= grow, d.arrow_size *= grow;
    if (c.viewport && !c.viewport->window.contains(d.text_at))
        return notRead(r.type, "outside the window of a paper layout");
    d.angle = angleOf(c.map.linear(direction(d.angle)));
    d_.dimensions.push_back(std::move(d));
}

void Interpreter::text(const Record& r, const Context& c) {
    SheetText t = textOf(r);
    const Affine2 m = c.map * planeOf(r);
    t.layer = layerOf(r, c);
    t.position = m(t.position);
    t.rotation = angleOf(m.linear(direction(t.rotation)));
    t.height *= std::sqrt(std::abs(m.determinant()));
    if (c.viewport && !c.viewport->window.contains(t.position))
        return notRead(r.type, "outside the window of a paper layout");
    if (!t.content.empty()) d_.texts.push_back(std::move(t));
}

void Interpreter::curves(const Record& r, std::span<const Record> vertices, const Context& c) {
    Entity e;
    e.curves = curvesOf(r, vertices);
    const bool endless = r.type == "XLINE" || r.type == "RAY";
    if (e.curves.empty() && r.type != "POINT" && !endless) {
        static const std::set<std::string_view> known{"LINE",     "CIRCLE", "ARC",   "ELLIPSE", "LWPOLYLINE",
                                                      "POLYLINE", "SPLINE", "HATCH", "LEADER",  "MULTILEADER",
                                                      "MLINE",    "SOLID",  "TRACE", "3DFACE"};
        return notRead(r.type,
                       known.contains(r.type) ? "its geometry is empty or broken" : "this kind is not read");
    }
    if (d_.entities.size() >= kMostEntities) return notRead(r.type, "more than four million entities");
    const Affine2 m = liesInOwnPlane(r.type) ? c.map * planeOf(r) : c.map;
    for (Curve& k : e.curves) k = transformed(k, m);
    if (c.viewport && !endless) {
        std::vector<Curve> seen;
        for (const Curve& k : e.curves)
            for (Curve& part : clipped(k, c.viewport->window)) seen.push_back(std::move(part));
        if (seen.empty()) return notRead(r.type, "outside the window of a paper layout");
        e.curves = std::move(seen);
    }
    if (r.type == "POINT") e.point = m(r.point(10));
    e.id = static_cast<int>(d_.entities.size());
    if (endless) endless_.push_back({e.id, m(r.point(10)), m.linear(r.point(11)), r.type == "XLINE"});
    e.type = std::string(r.type);
    e.handle = std::string(r.text(5));
    e.block_path = c.path;
    e.block = c.block;
    e.layer = layerOf(r, c);
    style(r, c, e);
    d_.entities.push_back(std::move(e));
}

} // namespace prism::dxf
