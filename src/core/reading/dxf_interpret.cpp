#include "core/reading/dxf_interpreter.h"

#include <fmt/format.h>
#include <set>

namespace prism::dxf {
namespace {

bool isDrawn(const Record& r) {
    static const std::set<std::string_view> drawn{"LINE",       "CIRCLE",   "ARC",    "ELLIPSE",
                                                  "LWPOLYLINE", "POLYLINE", "SPLINE", "INSERT"};
    return drawn.contains(r.type);
}

template <class Test> int countOf(const std::vector<Record>& list, Test test) {
    return static_cast<int>(std::count_if(list.begin(), list.end(), test));
}

} // namespace

Result<Drawing> Interpreter::run() {
    d_.format = "DXF";
    d_.version = file_.version;
    auto header = [&](const char* name) {
        auto it = file_.header.find(name);
        return it == file_.header.end() || it->second.empty() ? std::string_view{} : it->second.front().value;
    };
    d_.unit_code = toInteger(header("$INSUNITS"));
    if (const auto m = header("$MEASUREMENT"); !m.empty()) d_.metric = toInteger(m) == 1;
    if (const double s = toNumber(header("$LTSCALE")); s > 0) d_.line_type_scale = s;
    d_.layers = file_.layers;
    d_.line_types = file_.line_types;
    const auto paper = chosenLayout();
    if (!paper) return tl::make_unexpected(paper.error());
    records(*paper ? (*paper)->records : file_.model, {});
    clipEndless();
    listOthers(*paper);
    if (stopped_) return failure(ErrorCode::cancelled, "reading was cancelled");
    for (auto& [key, n] : not_read_) d_.not_read.push_back({key.first, n, key.second});
    return std::move(d_);
}

/// The layout to read; null for the model.
Result<const PaperLayout*> Interpreter::chosenLayout() {
    d_.layouts.push_back("Model");
    for (const PaperLayout& p : file_.papers) d_.layouts.push_back(p.name);
    if (choices_.layout) {
        d_.layout = *choices_.layout;
        if (*choices_.layout == "Model") return nullptr;
        for (const PaperLayout& p : file_.papers)
            if (p.name == *choices_.layout) return &p;
        return failure(ErrorCode::usage, fmt::format("the drawing has no layout \"{}\"; it has: {}",
                                                     *choices_.layout, fmt::join(d_.layouts, ", ")));
    }
    auto isDimension = [](const Record& r) { return r.type == "DIMENSION"; };
    const bool modelEmpty = countOf(file_.model, isDrawn) == 0,
               modelBare = countOf(file_.model, isDimension) == 0;
    const PaperLayout* best = nullptr;
    int most = 0;
    for (const PaperLayout& p : file_.papers) {
        const int dimensions = countOf(p.records, isDimension);
        const bool shows = countOf(p.records, showsModel) > 0;
        const int here = modelEmpty ? countOf(p.records, isDrawn) : shows && modelBare ? dimensions : 0;
        if (here > most) most = here, best = &p;
    }
    d_.layout = best ? best->name : "Model";
    return best;
}

/// Tells what the layouts hold that are not read.
void Interpreter::listOthers(const PaperLayout* chosen) {
    auto list = [&](const std::vector<Record>& records, const std::string& name) {
        for (const Record& r : records)
            if (r.type != "VIEWPORT" && r.type != "VERTEX" && r.type != "SEQEND" && r.type != "ATTRIB")
                notRead(r.type, fmt::format("on the layout \"{}\", which is not the one read", name));
    };
    bool modelShown = !chosen;
    for (const PaperLayout& p : file_.papers)
        if (&p != chosen)
            list(p.records, p.name);
        else
            modelShown = countOf(p.records, showsModel) > 0;
    if (!modelShown) list(file_.model, "Model");
}

void Interpreter::viewport(const Record& r) {
    const Viewport v = viewportOf(r, file_);
    if (!v.trouble.empty()) return notRead(r.type, v.trouble);
    Context c;
    c.map = v.map;
    c.path = "viewport " + std::string(r.text(5));
    c.viewport = &v;
    records(file_.model, c);
}

void Interpreter::clipEndless() {
    Box2 sheet = d_.box();
    for (const Endless& e : endless_)
        if (!sheet.valid()) sheet.add(e.from);
    sheet = sheet.grown(std::max(1.0, 0.02 * sheet.diagonal()));
    for (const Endless& e : endless_) {
        double from = e.both ? -std::numeric_limits<double>::infinity() : 0,
               to = std::numeric_limits<double>::infinity();
        for (int axis = 0; axis < 2; ++axis) {
            const double p = e.from[axis], u = e.direction[axis];
            const double a = (sheet.lo[axis] - p) / u, b = (sheet.hi[axis] - p) / u;
            if (u != 0)
                from = std::max(from, std::min(a, b)), to = std::min(to, std::max(a, b));
            else if (p < sheet.lo[axis] || p > sheet.hi[axis])
                to = from - 1;
        }
        if (from < to && std::isfinite(from) && std::isfinite(to))
            d_.entities[e.entity].curves = {Segment{e.from + e.direction * from, e.from + e.direction * to}};
    }
}

void Interpreter::records(std::span<const Record> list, const Context& c) {
    for (size_t i = 0; i < list.size() && !stopped_;) {
        if (c.depth == 0 && !c.viewport && i % 1024 == 0) {
            progress_.report(static_cast<double>(i) / static_cast<double>(list.size()), "Reading the sheet");
            stopped_ = progress_.cancelled();
        }
        i = one(list, i, c);
    }
}

void Interpreter::notRead(std::string_view type, const std::string& reason) {
    ++not_read_[{std::string(type), reason}];
}

Result<Drawing> interpret(std::span<const Tag> tags, const ReadingChoices& choices, Progress& progress) {
    File file = structure(tags);
    return Interpreter(file, choices, progress).run();
}

} // namespace prism::dxf
