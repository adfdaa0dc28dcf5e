#pragma once
#include "core/project/model.h"

#include <tuple>

// A repair that is tried out, and how likely it is that of the cause.
namespace prism {

struct Trial {
    Finding finding;
    size_t remedy = 0;        ///< of the finding
    bool supposed = false;    ///< not found by a check of its own
    std::optional<Role> role; ///< of the first view that it is about, as the sheet is looked at now
    Choices choices;          ///< with the repair
    std::shared_ptr<const Model> model;
    double weight = 0; ///< of what is found then
    const Remedy& repair() const { return finding.remedies[remedy]; }
};

/// How much what is found counts.
double weightOf(const Finding& f);
double weightOf(const std::vector<Finding>& all);

/// Repairs of views and features: what they explain is known only by trying. Those of one line or one text
/// explain just that, but for a gap that keeps an area from closing.
bool triedOut(const Finding& f, const Remedy& r);
bool ofOneLine(const Remedy& r);
/// Of a supposition: whether nothing but a solid can tell that it is right.
bool toldBySolid(const Remedy& r);

/// What a repair leaves unexplained. An end of a line that meets nothing is no finding of its own, but counts
/// as one that a line to it explains; so does an outline that is drawn hidden.
double unexplained(const Trial& t);

/// Among repairs that leave as little unexplained, the likeliest is the least: of a line, the one that meets
/// more ends that meet nothing, or gives more lines their mirror image; of a feature, the one that moves it
/// less far, then fewer lines; a view drawn to its neighbours is likelier wrong than the one they are drawn
/// to, and a whole view likelier mirrored than the angle misstated, but for an angle that is a guess.
std::tuple<int, double, size_t> rank(const Trial& t);

} // namespace prism
