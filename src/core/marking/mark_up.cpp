#include "core/marking/mark_up.h"

#include "core/base/text_scanner.h"
#include "core/drawing/dimension_measure.h"

#include <fmt/format.h>
#include <unordered_map>

namespace prism {
namespace {

int addedLayer(Drawing& d, LineRole role) {
    const std::string name = fmt::format("added {}", nameOf(role));
    for (size_t i = 0; i < d.layers.size(); ++i)
        if (d.layers[i].name == name) return static_cast<int>(i);
    Layer l;
    l.name = name;
    l.hint = {role, "added by hand"};
    d.layers.push_back(l);
    return static_cast<int>(d.layers.size()) - 1;
}

void add(Drawing& d, const MarkedLine& m) {
    Entity e;
    e.id = static_cast<int>(d.entities.size());
    e.type = "ADDED";
    e.handle = m.target;
    e.layer = addedLayer(d, m.role);
    e.line_type = "CONTINUOUS";
    e.curves = m.curves;
    d.entities.push_back(std::move(e));
}

void add(Drawing& d, const AddedDimension& a, int number) {
    Dimension x;
    x.id = static_cast<int>(d.dimensions.size());
    x.handle = fmt::format("+d{}", number);
    x.layer = addedLayer(d, LineRole::dimension);
    x.kind = a.kind;
    x.p10 = a.p10, x.p13 = a.p13, x.p14 = a.p14, x.p15 = a.p15, x.p16 = a.p16;
    x.three_point = a.kind == DimensionKind::angular;
    x.angle = a.angle;
    x.ordinate_x = a.kind == DimensionKind::ordinate && std::abs(std::cos(a.angle)) > 0.5;
    x.text_at = a.text_at;
    // As the sheet's other dimensions: their size and their factor.
    if (!d.dimensions.empty()) {
        const Dimension& like = d.dimensions.front();
        x.text_height = like.text_height, x.arrow_size = like.arrow_size, x.factor = like.factor;
    }
    x.added = true;
    x.measured = measuredOf(x);
    x.value = a.says.value_or(x.measured);
    const char* const before = a.kind == DimensionKind::radius     ? "R"
                               : a.kind == DimensionKind::diameter ? "Ø"
                                                                   : "";
    x.text = fmt::format("{}{:.6g}{}", before, x.value, a.kind == DimensionKind::angular ? "°" : "");
    x.overridden = a.says.has_value();
    d.dimensions.push_back(std::move(x));
}

void correct(Dimension& d, const MarkedDimension& m) {
    if (m.lies) {
        const AddedDimension& a = *m.lies;
        d.p10 = a.p10, d.p13 = a.p13, d.p14 = a.p14, d.p15 = a.p15, d.p16 = a.p16;
        d.text_at = a.text_at, d.angle = a.angle;
        d.measured = measuredOf(d);
        if (!d.overridden) d.text = textSaying(d, d.measured), d.value = d.measured;
    }
    if (!m.text) return;
    d.text = *m.text, d.overridden = true;
    d.count = 1, d.plus = d.minus = 0, d.has_tolerance = d.reference = false;
    readDimensionText(d);
}

template <class Item> std::string keyIn(const Item& e) {
    const std::string own = e.handle.empty() ? "#" + std::to_string(e.id) : e.handle;
    return e.block_path.empty() ? own : e.block_path + "/" + own;
}

} // namespace

std::string keyOf(const Entity& e) {
    return keyIn(e);
}

std::string keyOf(const Dimension& d) {
    return keyIn(d);
}

std::string textSaying(const Dimension& d, double value) {
    std::string number = fmt::format("{:.6g}", value);
    if (d.text.find(',') != std::string::npos && d.text.find('.') == std::string::npos)
        std::ranges::replace(number, '.', ',');
    std::string r = d.count > 1 ? fmt::format("{}x ", d.count) : "";
    r += d.kind == DimensionKind::radius ? "R" : d.kind == DimensionKind::diameter ? "Ø" : "";
    r += number + (d.kind == DimensionKind::angular ? "°" : "");
    if (d.has_tolerance) r += fmt::format(" +{:g}/-{:g}", d.plus, d.minus);
    return d.reference ? "(" + r + ")" : r;
}

AddedDimension placeOf(const Dimension& d) {
    return {d.kind, d.p10, d.p13, d.p14, d.p15, d.p16, d.text_at, d.angle, std::nullopt};
}

long long freshNumber(const MarkUp& m) {
    long long n = 1;
    for (const MarkedLine& l : m.lines) {
        TextScanner name(l.target);
        if (l.kind == MarkedLine::Kind::add && name.take("+")) n = std::max(n, name.whole().value_or(0) + 1);
    }
    return n;
}

std::string nameOfAdded(long long number) {
    return "+" + std::to_string(number);
}

std::shared_ptr<const Drawing> markedUp(std::shared_ptr<const Drawing> source, const MarkUp& m,
                                        std::vector<std::string>* misfits) {
    if (m.empty()) return source;
    auto d = std::make_shared<Drawing>(*source);
    std::unordered_map<std::string, int> byKey;
    for (const Entity& e : d->entities) byKey.emplace(keyOf(e), e.id);
    for (const MarkedLine& l : m.lines) {
        if (l.kind == MarkedLine::Kind::add) {
            byKey.emplace(l.target, static_cast<int>(d->entities.size()));
            add(*d, l);
            continue;
        }
        const auto it = byKey.find(l.target);
        if (it == byKey.end()) {
            if (misfits) misfits->push_back(fmt::format("The line {} that was marked up is gone", l.target));
            continue;
        }
        d->entities[it->second].curves = l.kind == MarkedLine::Kind::remove ? std::vector<Curve>{} : l.curves;
    }
    for (const MarkedDimension& x : m.corrected) {
        const auto it =
            std::ranges::find_if(d->dimensions, [&](const Dimension& own) { return keyOf(own) == x.target; });
        if (it != d->dimensions.end())
            correct(*it, x);
        else if (misfits)
            misfits->push_back(fmt::format("The dimension {} that was corrected is gone", x.target));
    }
    for (size_t i = 0; i < m.dimensions.size(); ++i) add(*d, m.dimensions[i], static_cast<int>(i) + 1);
    return d;
}

} // namespace prism
