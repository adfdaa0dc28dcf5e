#include "core/reading/svg_read.h"

#include "core/base/simpler_curve.h"
#include "core/reading/pens.h"
#include "core/reading/svg_path.h"
#include "core/reading/svg_style.h"

#include <fmt/format.h>
#include <set>

namespace prism {
namespace {

using namespace svg;

constexpr int kDeepest = 64;
constexpr size_t kMostEntities = 4'000'000;
constexpr double kMmPerPx = 25.4 / 96;

/// Pages are written with few digits: what follows an arc follows it this closely only (mm).
constexpr double kRoughly = 6e-3;

/// Places of a cubic that lie on the arc it is drawn for, rounding aside: its ends and its middle (between
/// them it strays by up to 2.7e-4 of the radius, outwards).
void addArcPlaces(const Curve& c, std::vector<Vec2>& out) {
    for (double t : {0.0, 0.5, 1.0}) out.push_back(pointAt(c, t));
}

bool followsCircle(const Curve& c, const Circle& k) {
    constexpr double kStray = 3e-4;
    for (double t : {0.0, 0.25, 0.5, 0.75, 1.0}) {
        const double off = distance(pointAt(c, t), k.centre) - k.radius;
        if (off < -kRoughly || off > kRoughly + kStray * k.radius) return false;
    }
    return true;
}

/// The longest run of cubics from `from` on that follow one circle, with that circle.
std::optional<std::pair<size_t, Circle>> arcFrom(const std::vector<Curve>& run, size_t from) {
    std::optional<std::pair<size_t, Circle>> best;
    std::vector<Vec2> places;
    for (size_t to = from; to < run.size() && std::holds_alternative<Spline>(run[to]); ++to) {
        addArcPlaces(run[to], places);
        const auto k = fitCircle(places);
        // A flat bow follows too many circles to be taken for an arc.
        const bool fits =
            k && k->radius < 20 * lengthOf(run[from]) &&
            std::all_of(run.begin() + static_cast<long>(from), run.begin() + static_cast<long>(to) + 1,
                        [&](const Curve& c) { return followsCircle(c, *k); });
        if (!fits) break;
        best = {to + 1, *k};
    }
    return best;
}

/// Cubics that follow an arc or a circle become one, those that follow a line become a line.
std::vector<Curve> tidied(const std::vector<Curve>& run, double touch) {
    std::vector<Curve> r;
    for (size_t i = 0; i < run.size();) {
        const auto* s = std::get_if<Spline>(&run[i]);
        const auto simple = s ? simplerCurve(*s, touch) : std::nullopt;
        if (s && simple && std::holds_alternative<Segment>(*simple)) {
            r.push_back(*simple), ++i;
            continue;
        }
        const auto arc = s ? arcFrom(run, i) : std::nullopt;
        if (!arc) {
            r.push_back(run[i++]);
            continue;
        }
        std::vector<Vec2> places;
        for (size_t k = i; k < arc->first; ++k) addArcPlaces(run[k], places);
        const bool closed = arc->first - i > 1 && distance(places.front(), places.back()) <= kRoughly;
        const auto a = arcOn(arc->second, places, 2 * kRoughly, closed);
        if (a)
            r.push_back(*a);
        else
            r.insert(r.end(), run.begin() + static_cast<long>(i),
                     run.begin() + static_cast<long>(arc->first));
        i = arc->first;
    }
    return r;
}

class Reader {
  public:
    Reader(Progress& progress, double scale) : progress_(progress), scale_(scale) {}

    Result<Drawing> read(std::string_view bytes) {
        const auto parsed = doc_.load_buffer(bytes.data(), bytes.size());
        const pugi::xml_node root = doc_.document_element();
        if (!parsed)
            return failure(ErrorCode::unreadable,
                           fmt::format("SVG: {} at byte {}", parsed.description(), parsed.offset));
        if (local(root) != "svg")
            return failure(ErrorCode::unreadable, "SVG: the outermost element is not svg");
        d_.format = "SVG";
        d_.version = root.attribute("version").value();
        d_.unit_code = 4, d_.on_paper = true;
        d_.layouts = {"Page"}, d_.layout = "Page";
        collect(root, 0);
        const Affine2 page = Affine2::scale(kMmPerPx * scale_, -kMmPerPx * scale_);
        viewport(root, page, {}, 0);
        if (stopped_) return failure(ErrorCode::cancelled, "reading was cancelled");
        pens_.finish(d_);
        for (const auto& [type, n] : not_read_) d_.not_read.push_back({type.first, n, type.second});
        return std::move(d_);
    }

  private:
    static std::string local(const pugi::xml_node& n) {
        const std::string name = n.name();
        const size_t colon = name.find(':');
        return colon == std::string::npos ? name : name.substr(colon + 1);
    }

    /// Names and style sheets first: they may stand after what uses them.
    void collect(const pugi::xml_node& n, int depth) {
        if (depth > kDeepest) return;
        if (const char* id = n.attribute("id").value(); *id) ids_.emplace(id, n);
        if (local(n) == "style")
            for (auto& [selector, declarations] : rulesIn(n.child_value()))
                rules_[selector].insert(declarations.begin(), declarations.end());
        for (const auto& c : n.children())
            if (c.type() == pugi::node_element) collect(c, depth + 1);
    }

    /// An svg element: its viewBox onto its width and height.
    void viewport(const pugi::xml_node& n, const Affine2& m, const Style& inherited, int depth) {
        const std::vector<double> box = numbersIn(n.attribute("viewBox").value());
        const bool boxed = box.size() >= 4 && box[2] > 0 && box[3] > 0;
        const double w =
            lengthIn(n.attribute("width").value(), boxed ? box[2] : 100).value_or(boxed ? box[2] : 100);
        const double h =
            lengthIn(n.attribute("height").value(), boxed ? box[3] : 100).value_or(boxed ? box[3] : 100);
        Affine2 inner = m;
        if (depth > 0)
            inner = inner * Affine2::shift({lengthIn(n.attribute("x").value(), 100).value_or(0),
                                            lengthIn(n.attribute("y").value(), 100).value_or(0)});
        if (boxed) {
            double sx = w / box[2], sy = h / box[3];
            if (std::string_view(n.attribute("preserveAspectRatio").value()) != "none")
                sx = sy = std::min(sx, sy);
            inner = inner * Affine2::shift({(w - sx * box[2]) / 2, (h - sy * box[3]) / 2}) *
                    Affine2::scale(sx, sy) * Affine2::shift({-box[0], -box[1]});
        }
        children(n, inner, styleOf(n, inherited, rules_), depth);
    }

    void children(const pugi::xml_node& n, const Affine2& m, const Style& s, int depth) {
        for (const auto& c : n.children())
            if (c.type() == pugi::node_element && !stopped_) element(c, m, s, depth + 1);
    }

    void element(const pugi::xml_node& n, const Affine2& outer, const Style& inherited, int depth) {
        static const std::set<std::string> silent{
            "defs", "style",     "title",  "desc",    "metadata",       "symbol",         "clipPath",
            "mask", "namedview", "marker", "pattern", "linearGradient", "radialGradient", "script"};
        const std::string name = local(n);
        if (silent.contains(name)) return;
        if (depth > kDeepest) return notRead(name, "nested more than 64 deep, or within itself");
        if (++visits_ > kMostEntities) return notRead(name, "more than four million elements");
        const Style s = styleOf(n, inherited, rules_);
        if (!s.shown) return notRead(name, "not shown");
        const Affine2 m = outer * transformIn(n.attribute("transform").value());
        if (name == "g" || name == "a" || name == "switch") return children(n, m, s, depth);
        if (name == "svg") return viewport(n, m, inherited, depth);
        if (name == "use") return use(n, m, s, depth);
        ++d_.counts[name];
        if (++seen_ % 512 == 0) progress_.report(0.5, "Reading the sheet"), stopped_ = progress_.cancelled();
        if (name == "text") return text(n, m, s);
        shape(n, name, m, s);
    }

    void use(const pugi::xml_node& n, const Affine2& m, const Style& s, int depth) {
        std::string ref = n.attribute("href").value();
        if (ref.empty()) ref = n.attribute("xlink:href").value();
        const auto it = ref.empty() ? ids_.end() : ids_.find(ref.substr(1));
        if (it == ids_.end())
            return notRead("use", fmt::format("what it refers to, \"{}\", is not in the file", ref));
        const Affine2 there = m * Affine2::shift({lengthIn(n.attribute("x").value(), 100).value_or(0),
                                                  lengthIn(n.attribute("y").value(), 100).value_or(0)});
        if (local(it->second) == "symbol") {
            if (ref.starts_with("#glyph"))
                return; // lettering of a page that was turned to SVG; its texts come apart
            return viewport(it->second, there, s, depth + 1);
        }
        element(it->second, there, s, depth + 1);
    }

    void shape(const pugi::xml_node& n, const std::string& name, const Affine2& m, const Style& s) {
        auto number = [&](const char* a) { return lengthIn(n.attribute(a).value(), 100).value_or(0); };
        std::vector<Run> runs;
        if (name == "path")
            runs = pathRuns(n.attribute("d").value());
        else if (name == "line")
            runs = {{{Segment{{number("x1"), number("y1")}, {number("x2"), number("y2")}}}, false}};
        else if (name == "circle")
            runs = {{{Arc{{number("cx"), number("cy")}, number("r"), 0, 2 * kPi}}, true}};
        else if (name == "ellipse")
            runs = {{{EllipseArc{{number("cx"), number("cy")},
                                 {number("rx"), 0},
                                 number("rx") > 0 ? number("ry") / number("rx") : 1,
                                 0,
                                 2 * kPi}},
                     true}};
        else if (name == "rect")
            runs = pathRuns(rectangle({number("x"), number("y")}, {number("width"), number("height")}, n));
        else if (name == "polyline" || name == "polygon")
            runs =
                pathRuns(fmt::format("M{}{}", n.attribute("points").value(), name == "polygon" ? "Z" : ""));
        else
            return notRead(name, "this kind is not read");
        if (s.stroke == "none" && s.fill == "none") return notRead(name, "drawn with neither pen nor fill");
        if (runs.empty()) return notRead(name, "its geometry is empty or broken");
        for (const Run& run : runs) add(n, name, run, m, s);
    }

    static std::string rectangle(Vec2 at, Vec2 size, const pugi::xml_node& n) {
        auto rx = lengthIn(n.attribute("rx").value(), 100), ry = lengthIn(n.attribute("ry").value(), 100);
        double a = std::min(rx.value_or(ry.value_or(0)), size.x / 2),
               b = std::min(ry.value_or(rx.value_or(0)), size.y / 2);
        if (a <= 0 || b <= 0) return fmt::format("M{} {}h{}v{}h{}Z", at.x, at.y, size.x, size.y, -size.x);
        const double w = size.x - 2 * a, h = size.y - 2 * b;
        return fmt::format("M{0} {1}h{2}a{4} {5} 0 0 1 {4} {5}v{3}a{4} {5} 0 0 1 -{4} {5}h-{2}a{4} {5} 0 0 1 "
                           "-{4} -{5}v-{3}a{4} {5} 0 0 1 {4} -{5}Z",
                           at.x + a, at.y, w, h, a, b);
    }

    void add(const pugi::xml_node& n, const std::string& name, const Run& run, const Affine2& m,
             const Style& s) {
        if (d_.entities.size() >= kMostEntities) return notRead(name, "more than four million lines");
        Entity e;
        e.id = static_cast<int>(d_.entities.size());
        e.type = name;
        e.handle = n.attribute("id").value();
        if (run_of_[e.handle]++ > 0 && !e.handle.empty()) e.handle += "." + std::to_string(run_of_[e.handle]);
        std::vector<Curve> curves;
        for (const Curve& c : run.curves) curves.push_back(transformed(c, m));
        e.curves = tidied(curves, 1e-3);
        const double scale = std::sqrt(std::abs(m.determinant()));
        Pen pen{s.stroke == "none" ? s.fill : s.stroke, s.width * scale, {}, s.stroke == "none"};
        for (double d : s.dashes) pen.dashes.push_back(d * scale);
        pens_.use(pen, e.id);
        d_.entities.push_back(std::move(e));
    }

    void text(const pugi::xml_node& n, const Affine2& m, const Style& s) {
        SheetText t;
        t.handle = n.attribute("id").value();
        const Vec2 at{lengthIn(n.attribute("x").value(), 100).value_or(0),
                      lengthIn(n.attribute("y").value(), 100).value_or(0)};
        words(n, t.content);
        if (t.content.empty()) return;
        t.position = m(at);
        t.height =
            0.7 * s.font_size * std::sqrt(std::abs(m.determinant())); // capitals are about 0.7 of the size
        t.rotation = angleOf(m.linear({1, 0}));
        t.halign = s.anchor == "middle" ? 0 : s.anchor == "end" ? 1 : -1;
        pens_.text(static_cast<int>(d_.texts.size()));
        d_.texts.push_back(std::move(t));
    }

    static void words(const pugi::xml_node& n, std::string& out) {
        for (const auto& c : n.children()) {
            if (c.type() == pugi::node_pcdata || c.type() == pugi::node_cdata) out += c.value();
            if (local(c) == "tspan") {
                if (!out.empty() && (c.attribute("dy") || c.attribute("y"))) out += '\n';
                words(c, out);
            }
        }
        const size_t from = out.find_first_not_of(" \t\r\n"), to = out.find_last_not_of(" \t\r\n");
        out = from == std::string::npos ? "" : out.substr(from, to - from + 1);
    }

    void notRead(const std::string& type, const std::string& reason) { ++not_read_[{type, reason}]; }

    Progress& progress_;
    double scale_;
    pugi::xml_document doc_;
    std::map<std::string, pugi::xml_node> ids_;
    Rules rules_;
    Drawing d_;
    Pens pens_;
    std::map<std::string, int> run_of_;
    std::map<std::pair<std::string, std::string>, int> not_read_;
    size_t seen_ = 0, visits_ = 0;
    bool stopped_ = false;
};

} // namespace

bool isSvg(std::string_view bytes) {
    const std::string_view head = bytes.substr(0, 4096);
    const size_t svg = head.find("<svg");
    return svg != std::string_view::npos ||
           (head.find("<?xml") != std::string_view::npos && head.find(":svg") != std::string_view::npos);
}

Result<Drawing> readSvg(std::string_view bytes, Progress& progress, double scale) {
    return Reader(progress, scale).read(bytes);
}

} // namespace prism
