#include "core/cleaning/workbench.h"

#include "core/drawing/sheet_unit.h"

namespace prism {

const std::vector<RepairKind>& repairKinds() {
    static const std::vector<RepairKind> kinds{
        {"sheet_turned", "Sheet turned", "The sheet lay askew; it is turned upright"},
        {"origin_moved", "Origin moved", "The sheet lay far from its origin; it is moved there"},
        {"speck", "Speck", "Too short to be a line; set aside"},
        {"duplicate", "Drawn twice", "One copy is used, the other set aside"},
        {"contained", "Within a longer line", "The shorter line is set aside"},
        {"overlapping", "Overlapping lines", "Made into one line"},
        {"polyline_apart", "Polyline taken apart",
         "A span that another line draws, too, is taken out of its polyline"},
        {"centre_recognised", "Plain centre line", "Runs out beyond what it halves; a centre line"},
        {"hatching", "Hatching in single lines", "Taken for hatching; not part of the outline"},
        {"dashes_joined", "Loose dashes", "Single dashes made into one line with a line type"},
        {"arc_recovered", "Chords of an arc",
         "A chain of short chords made into the arc, circle or ellipse it stood for"},
        {"spline_arc", "Curve that is a plainer one",
         "Made into the arc, circle, ellipse or line that it follows"},
        {"straightened", "Nearly level or upright", "Made exactly horizontal or vertical"},
        {"gap_closed", "Gap closed", "Two ends that just missed each other now meet"},
        {"corner_extended", "Line too short", "Extended to the line it just missed"},
        {"curve_led_on", "Free-form curve too short", "Led on to the corner that it just missed"},
        {"overshoot_trimmed", "Overshoot", "Trimmed to the line it ran past"},
        {"break_closed", "Break lines",
         "The view is drawn shortened; the lines on both sides of the break are joined"},
        {"pieces_joined", "Split line", "Pieces of one line or arc made into one"},
        {"half_completed", "Half view", "Drawn to its symmetry line only; the other half is added"},
    };
    return kinds;
}

const RepairKind& repairKind(const std::string& kind) {
    for (const RepairKind& k : repairKinds())
        if (kind == k.kind) return k;
    static const RepairKind other{"", "Repair", ""};
    return other;
}

bool isOn(const RepairChoices& choices, const std::string& kind, const std::string& key) {
    const auto all = choices.kinds.find(kind);
    return (all == choices.kinds.end() || all->second) && !choices.off.contains(key);
}

namespace cleaning {

Workbench::Workbench(std::shared_ptr<const Drawing> d, const RepairChoices& choices, CleanSheet& sheet)
    : source_(std::move(d)), current_(source_), choices_(choices), sheet_(sheet) {
    // An undeclared unit: a sheet of the usual sizes (ISO 5457) in mm is 200 to 1200 across.
    const double diagonal = extentOf(*current_).diagonal();
    const double declared = millimetresIn(unitOfCode(current_->unit_code));
    mm_ = declared > 0 ? declared : diagonal > 0 && diagonal < 60 ? 25.4 : 1;
    curves_.reserve(current_->entities.size());
    for (const Entity& e : current_->entities) curves_.push_back(static_cast<int>(e.curves.size()));
    sheet_.gap = std::max(paper(choices.gap.value_or(0.5)), 2 * touch());
    // Where other ink crosses near a corner of a scan, the lines of the corner end early by a few pixels.
    constexpr double kPixelsShort = 14;
    corner_gap_ = sheet_.gap;
    if (!choices.gap)
        for (const Picture& p : current_->pictures)
            corner_gap_ = std::max(corner_gap_, kPixelsShort * p.pixel);
}

Drawing& Workbench::own() {
    webs_ = {};
    if (!own_) {
        own_ = std::make_shared<Drawing>(*current_);
        current_ = own_;
        sheet_.drawing = own_;
    }
    return *own_;
}

bool Workbench::record(const char* kind, std::vector<int> entities, Vec2 at, double size) {
    Repair r{kind, std::move(entities), at, size, kind, true};
    for (int e : r.entities)
        if (r.key.size() < 200) r.key += ":" + keyOf(current_->entities[e]);
    if (const int before = seen_[r.key]++; before > 0) r.key += "#" + std::to_string(before + 1);
    r.on = isOn(choices_, kind, r.key);
    sheet_.repairs.push_back(std::move(r));
    return sheet_.repairs.back().on;
}

bool Workbench::isPartLine(int entity, bool centres) const {
    const LineRole r = sheet_.entity_roles[entity];
    return sheet_.in_use[entity] &&
           (r == LineRole::outline || r == LineRole::hidden || (centres && r == LineRole::centre));
}

std::vector<Piece> Workbench::pieces(bool centres) const {
    std::vector<Piece> r;
    r.reserve(curves_.size());
    for (int e = 0; e < static_cast<int>(curves_.size()); ++e)
        if (isPartLine(e, centres))
            for (int i = 0; i < curves_[e]; ++i) r.push_back({e, i});
    return r;
}

std::shared_ptr<const Web> Workbench::web(bool centres) const {
    std::shared_ptr<const Web>& kept = webs_[centres];
    if (kept) return kept;
    const auto centre = [&](const Entity& e) { // has one that is used
        return curves_[e.id] > 0 && isPartLine(e.id) && !isPartLine(e.id, false);
    };
    if (centres && std::ranges::none_of(current_->entities, centre)) return kept = web();
    return kept = std::make_shared<const Web>(*this, centres);
}

Nodes::Nodes(const Workbench& w, const std::vector<Piece>& pieces)
    : at_(w.touch()), of_(2 * pieces.size(), -1) {
    at_.reserve(2 * pieces.size());
    for (size_t i = 0; i < pieces.size(); ++i) {
        const Curve& c = w.curve(pieces[i]);
        if (isClosed(c, w.touch())) continue;
        of_[2 * i] = at_.add(startOf(c));
        of_[2 * i + 1] = at_.add(endOf(c));
    }
    first_.assign(size() + 1, 0);
    for (int n : of_)
        if (n >= 0) ++first_[static_cast<size_t>(n) + 1];
    for (size_t n = 0; n < size(); ++n) first_[n + 1] += first_[n];
    ends_.resize(first_.back());
    std::vector<size_t> next(first_.begin(), first_.end() - 1);
    for (size_t i = 0; i < of_.size(); ++i)
        if (of_[i] >= 0) ends_[next[of_[i]]++] = {static_cast<int>(i / 2), static_cast<int>(i % 2)};
}

NearPieces::NearPieces(const Workbench& w, const std::vector<Piece>& pieces, double usual,
                       std::optional<size_t> questions) {
    double total = 0;
    Box2 box;
    for (const Piece& p : pieces) {
        if (const double l = lengthOf(w.curve(p)); std::isfinite(l)) total += l;
        box.add(startOf(w.curve(p)));
    }
    const double n = static_cast<double>(std::max<size_t>(1, pieces.size()));
    // Cells that few lines pass: on a crowded sheet far smaller than the lines are long. What an answer costs
    // falls with the cells of one line as what making them costs rises.
    const double often = questions ? std::min(1.0, static_cast<double>(*questions) / n) : 1.0;
    const double most_cells = std::max(1.0, 24 * std::sqrt(often)); // of one line, on average
    const double open = total / (4 * n),
                 crowded = box.valid() && total > 0 ? box.width() * box.height() / total : open;
    cell_ = std::max({2 * usual, std::min(open, crowded), total / (most_cells * n)});
    if (!(cell_ > 0)) cell_ = 1; // nothing here has a length
    for (size_t i = 0; i < pieces.size(); ++i) {
        const Curve& c = w.curve(pieces[i]);
        const double length = lengthOf(c);
        if (!std::isfinite(length)) continue; // passes near nothing
        const int steps = static_cast<int>(std::clamp(std::ceil(2 * length / cell_) + 1, 2.0, 4e6));
        std::pair<long long, long long> last{std::numeric_limits<long long>::min(), 0};
        for (int k = 0; k <= steps; ++k) {
            const auto here = cell(pointAt(c, static_cast<double>(k) / steps));
            if (here != last) entries_.push_back({here, static_cast<int>(i)});
            last = here;
        }
    }
    std::sort(entries_.begin(), entries_.end());
    asked_.assign(pieces.size(), 0);
}

NearPieces::Cell NearPieces::cell(Vec2 p) const {
    constexpr double kMost = 1e15; // a point beside a far larger sheet would have no number of its own
    const auto at = [&](double v) { return std::llround(std::clamp(v / cell_, -kMost, kMost)); };
    return {at(p.x), at(p.y)};
}

std::vector<int> NearPieces::near(Vec2 p, double reach) const {
    std::vector<int> r;
    if (!std::isfinite(p.x) || !std::isfinite(p.y)) return r;
    ++question_;
    // Lines are kept by places half a cell apart: the nearest kept one may lie a quarter beyond.
    const double by = reach + 0.26 * cell_;
    const Cell lo = cell(p - Vec2{by, by}), hi = cell(p + Vec2{by, by});
    for (long long i = lo.first; i <= hi.first; ++i)
        for (auto it =
                 std::lower_bound(entries_.begin(), entries_.end(), std::make_pair(Cell{i, lo.second}, -1));
             it != entries_.end() && it->first.first == i && it->first.second <= hi.second; ++it)
            if (asked_[it->second] != question_) asked_[it->second] = question_, r.push_back(it->second);
    return r;
}

} // namespace cleaning
} // namespace prism
