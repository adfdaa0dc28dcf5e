#include "core/base/crossings.h"
#include "core/tracing/pieces.h"

// Lines that are too short to tell by themselves where they go.
namespace prism {
namespace {

struct End {
    int piece;
    bool at_start;
};

class Aim {
  public:
    Aim(TracePieces& t, double pixel) : t_(t), pixel_(pixel) { gatherLongEnds(); }
    void all() {
        for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i) aim(i);
    }

  private:
    void gatherLongEnds() {
        for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i)
            if (!isShort(t_.pieces[i], pixel_) && std::holds_alternative<Segment>(t_.pieces[i].shape))
                long_ends_.emplace_back(startOf(t_.pieces[i].shape), End{i, true}),
                    long_ends_.emplace_back(endOf(t_.pieces[i].shape), End{i, false});
        std::ranges::sort(long_ends_, {}, [](const auto& e) { return e.first.x; });
    }

    /// The long lines that end at a place.
    std::vector<End> longEndsAt(Vec2 p) const {
        std::vector<End> r;
        const auto x = [](const auto& e) { return e.first.x; };
        for (auto it = std::ranges::lower_bound(long_ends_, p.x - pixel_, {}, x);
             it != long_ends_.end() && it->first.x < p.x + pixel_; ++it)
            if (distance(it->first, p) < pixel_) r.push_back(it->second);
        return r;
    }

    /// A short line whose one end lies in a corner of long ones, and whose other on a single long one, runs
    /// from that corner through the middle of its own ink.
    void aim(int i) {
        auto* s = std::get_if<Segment>(&t_.pieces[i].shape);
        if (!s || !isShort(t_.pieces[i], pixel_) || t_.pieces[i].points.size() < 2) return;
        const auto first = longEndsAt(s->a), second = longEndsAt(s->b);
        if ((first.size() > 1) == (second.size() > 1) || first.empty() || second.empty()) return;
        const bool from_start = first.size() > 1;
        const Vec2 corner = from_start ? s->a : s->b;
        const End other = from_start ? second[0] : first[0];
        Vec2 middle;
        for (Vec2 p : t_.pieces[i].points) middle = middle + p;
        middle = middle * (1.0 / static_cast<double>(t_.pieces[i].points.size()));
        const Vec2 way = middle - corner;
        for (Vec2 p : crossings(Segment{corner, corner + way * 8},
                                longer(std::get<Segment>(t_.pieces[other.piece].shape)), 1e-9))
            if (distance(p, from_start ? s->b : s->a) < t_.pieces[i].width) {
                setEnd(other, p), setEnd({i, !from_start}, p);
                return;
            }
    }

    /// Prolonged as far as its end can be off.
    Segment longer(const Segment& s) const {
        const Vec2 d = normalized(s.b - s.a) * (40 * pixel_);
        return {s.a - d, s.b + d};
    }
    /// A long line keeps its direction.
    void setEnd(const End& e, Vec2 p) {
        auto& s = std::get<Segment>(t_.pieces[e.piece].shape);
        const Vec2 d = s.b - s.a;
        (e.at_start ? s.a : s.b) =
            isShort(t_.pieces[e.piece], pixel_) ? p : s.a + d * (dot(p - s.a, d) / dot(d, d));
    }

    TracePieces& t_;
    double pixel_;
    std::vector<std::pair<Vec2, End>> long_ends_; ///< of straight lines, by x
};

} // namespace

bool isShort(const TracePiece& p, double pixel) {
    return lengthOf(p.shape) <= std::max(12 * pixel, 4 * p.width);
}

void aimShortLines(TracePieces& t, double pixel) {
    Aim(t, pixel).all();
}

} // namespace prism
