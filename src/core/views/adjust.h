#pragma once
#include <vector>

namespace prism {

/// One coordinate seen in two views: offset[a] + at_a = offset[b] + at_b, with a weight above 0.
struct TieEquation {
    int a = 0, b = 0;
    double at_a = 0, at_b = 0;
    double weight = 1;
};

/// The offsets of n views along one axis for which the weighted squares of what is left over are least, all
/// views at once. The fixed one stays where it starts; views that nothing ties to it keep their middle; of
/// several solutions the one nearest to the start.
std::vector<double> adjusted(const std::vector<TieEquation>& equations, int fixed, std::vector<double> start);

} // namespace prism
