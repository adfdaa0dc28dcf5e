#include "core/reading/dxf_file.h"

#include <fmt/format.h>
#include <set>

namespace prism::dxf {
namespace {

constexpr int kDeepestBlock = 32;
constexpr size_t kMostEntities = 4'000'000;

/// What an entity inherits from the insert it came through.
struct Context {
    Affine2 map;
    int layer = -1; ///< layer of the insert: entities on layer 0 take it
    std::string line_type = "CONTINUOUS";
    int color = 7;
    std::string path, block;
    int depth = 0;
};

class Interpreter {
  public:
    Interpreter(File& file, Progress& progress) : file_(file), progress_(progress) {}

    Result<Drawing> run();

  private:
    void records(std::span<const Record> list, const Context& c);
    size_t one(std::span<const Record> list, size_t i, const Context& c);
    void insert(const Record& r, const Context& c);
    void dimension(const Record& r, const Context& c);
    std::string shownText(const Record& r) const;
    void text(const Record& r, const Context& c);
    void curves(const Record& r, std::span<const Record> vertices, const Context& c);
    int layerOf(const Record& r, const Context& c);
    void style(const Record& r, const Context& c, Entity& e) const;
    void notRead(std::string_view type, const std::string& reason);
    std::string path(const Context& c, const Record& r) const;

    File& file_;
    Progress& progress_;
    Drawing d_;
    std::map<std::pair<std::string, std::string>, int> not_read_;
    bool stopped_ = false;
};

Result<Drawing> Interpreter::run() {
    d_.format = "DXF";
    d_.version = file_.version;
    auto header = [&](const char* name) {
        auto it = file_.header.find(name);
        return it == file_.header.end() || it->second.empty() ? std::string_view{} : it->second.front().value;
    };
    d_.unit_code = toInteger(header("$INSUNITS"));
    if (const double s = toNumber(header("$LTSCALE")); s > 0) d_.line_type_scale = s;
    d_.layers = file_.layers;
    d_.line_types = file_.line_types;
    records(file_.entities, {});
    if (stopped_) return failure(ErrorCode::cancelled, "reading was cancelled");
    for (auto& [key, n] : not_read_) d_.not_read.push_back({key.first, n, key.second});
    return std::move(d_);
}

void Interpreter::records(std::span<const Record> list, const Context& c) {
    for (size_t i = 0; i < list.size() && !stopped_;) {
        if (c.depth == 0 && i % 1024 == 0) {
            progress_.report(static_cast<double>(i) / static_cast<double>(list.size()), "Reading the sheet");
            stopped_ = progress_.cancelled();
        }
        i = one(list, i, c);
    }
}

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
    if (r.integer(67) == 1) {
        notRead(r.type, "on a paper layout");
        return next;
    }
    if (r.type == "INSERT") {
        insert(r, c);
        for (const Record& a : parts) text(a, c);
    } else if (r.type == "DIMENSION")
        dimension(r, c);
    else if (r.type == "TEXT" || r.type == "MTEXT" || r.type == "ATTRIB")
        text(r, c);
    else if (r.type == "ATTDEF")
        notRead(r.type, "a pattern for attributes, not drawn");
    else
        curves(r, parts, c);
    return next;
}

void Interpreter::notRead(std::string_view type, const std::string& reason) {
    ++not_read_[{std::string(type), reason}];
}

std::string Interpreter::path(const Context& c, const Record& r) const {
    const std::string h(r.text(5));
    return c.path.empty() ? h : c.path + "/" + h;
}

int Interpreter::layerOf(const Record& r, const Context& c) {
    std::string name = decoded(r.text(8));
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
    const auto it = file_.blocks.find(upper(decoded(r.text(2))));
    if (it == file_.blocks.end())
        return notRead("INSERT", fmt::format("its block \"{}\" is not in the file", decoded(r.text(2))));
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
    const int columns = std::clamp(r.integer(70, 1), 1, 1000), rows = std::clamp(r.integer(71, 1), 1, 1000);
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
    const auto it = file_.blocks.find(upper(decoded(r.text(2))));
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
    if (!t.content.empty()) d_.texts.push_back(std::move(t));
}

void Interpreter::curves(const Record& r, std::span<const Record> vertices, const Context& c) {
    Entity e;
    e.curves = curvesOf(r, vertices);
    if (e.curves.empty() && r.type != "POINT") {
        static const std::set<std::string_view> known{"LINE",       "CIRCLE",   "ARC",   "ELLIPSE",
                                                      "LWPOLYLINE", "POLYLINE", "SPLINE"};
        return notRead(r.type,
                       known.contains(r.type) ? "its geometry is empty or broken" : "this kind is not read");
    }
    if (d_.entities.size() >= kMostEntities) return notRead(r.type, "more than four million entities");
    const Affine2 m = liesInOwnPlane(r.type) ? c.map * planeOf(r) : c.map;
    for (Curve& k : e.curves) k = transformed(k, m);
    if (r.type == "POINT") e.point = m(r.point(10));
    e.id = static_cast<int>(d_.entities.size());
    e.type = std::string(r.type);
    e.handle = std::string(r.text(5));
    e.block_path = c.path;
    e.block = c.block;
    e.layer = layerOf(r, c);
    style(r, c, e);
    d_.entities.push_back(std::move(e));
}

} // namespace

Result<Drawing> interpret(std::span<const Tag> tags, Progress& progress) {
    File file = structure(tags);
    return Interpreter(file, progress).run();
}

} // namespace prism::dxf
