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
    std::vector<const PaperLayout*> read;
    if (d_.layout == kAllLayouts) {
        readAllPapers();
        for (const PaperLayout& p : file_.papers) read.push_back(&p);
    } else {
        records(*paper ? (*paper)->records : file_.model, {});
        if (*paper) read.push_back(*paper);
    }
    clipEndless();
    listOthers(read);
    if (stopped_) return failure(ErrorCode::cancelled, "reading was cancelled");
    for (auto& [key, n] : not_read_) d_.not_read.push_back({key.first, n, key.second});
    return std::move(d_);
}

/// The layout to read; null for the model.
Result<const PaperLayout*> Interpreter::chosenLayout() {
    d_.layouts.push_back("Model");
    for (const PaperLayout& p : file_.papers) d_.layouts.push_back(p.name);
    if (file_.papers.size() > 1) d_.layouts.push_back(kAllLayouts);
    if (choices_.layout) {
        d_.layout = *choices_.layout;
        if (*choices_.layout == "Model" || (*choices_.layout == kAllLayouts && file_.papers.size() > 1))
            return nullptr;
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

/// The paper layouts one right of the other, a little apart.
void Interpreter::readAllPapers() {
    double right = 0;
    bool first = true;
    for (const PaperLayout& p : file_.papers) {
        const size_t entities = d_.entities.size(), texts = d_.texts.size(),
                     dimensions = d_.dimensions.size(), endless = endless_.size();
        records(p.records, {});
        Box2 box;
        for (size_t i = entities; i < d_.entities.size(); ++i)
            for (const Curve& c : d_.entities[i].curves) box.add(boxOf(c));
        for (size_t i = texts; i < d_.texts.size(); ++i) box.add(d_.texts[i].position);
        if (!box.valid()) continue;
        const Vec2 by{first ? 0 : right + 0.1 * box.width() - box.lo.x, 0};
        first = false, right = box.hi.x + by.x;
        for (size_t i = entities; i < d_.entities.size(); ++i) {
            for (Curve& c : d_.entities[i].curves) c = transformed(c, Affine2::shift(by));
            if (d_.entities[i].point) *d_.entities[i].point = *d_.entities[i].point + by;
        }
        for (size_t i = texts; i < d_.texts.size(); ++i) d_.texts[i].position = d_.texts[i].position + by;
        for (size_t i = dimensions; i < d_.dimensions.size(); ++i)
            for (Vec2* q : {&d_.dimensions[i].p10, &d_.dimensions[i].p13, &d_.dimensions[i].p14,
                            &d_.dimensions[i].p15, &d_.dimensions[i].p16, &d_.dimensions[i].text_at})
                *q = *q + by;
        for (size_t i = endless; i < endless_.size(); ++i) endless_[i].from = endless_[i].from + by;
    }
}

/// Tells what the layouts hold that are not read; with none, the model was.
void Interpreter::listOthers(const std::vector<const PaperLayout*>& read) {
    auto list = [&](const std::vector<Record>& records, const std::string& name) {
        for (const Record& r : records)
            if (r.type != "VIEWPORT" && r.type != "VERTEX" && r.type != "SEQEND" && r.type != "ATTRIB")
                notRead(r.type, fmt::format("on the layout \"{}\", which is not the one read", name));
    };
    bool modelShown = read.empty();
    for (const PaperLayout& p : file_.papers)
        if (std::ranges::find(read, &p) == read.end())
            list(p.records, p.name);
        else
            modelShown = modelShown || countOf(p.records, showsModel) > 0;
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
