#pragma once
#include "core/proposing/view_map.h"

#include <memory>
#include <set>
#include <string_view>
#include <unordered_map>

// Space cut into cells by what the views show; every cell is material or air.
namespace prism {

/// Coordinates this close are one level of the cells (mm).
double oneLevel(const std::vector<ViewMap>& maps);

/// A line of sight: the cells it passes, from the low to the high end of the view's depth axis. cells[i] lies
/// between breaks[i - 1] and breaks[i]; -1 is certainly air.
struct Ray {
    std::vector<double> breaks;
    std::vector<int> cells; ///< breaks.size() + 1
};

class CellModel {
  public:
    virtual ~CellModel() = default;
    /// The line of sight through a place of a view.
    virtual Ray ray(int map, Vec2 at) = 0;
    virtual int cells() const = 0;
    const std::vector<ViewMap>& maps() const { return *maps_; }

  protected:
    explicit CellModel(const std::vector<ViewMap>& maps) : maps_(&maps) {}
    const std::vector<ViewMap>* maps_;
};

/// A cell is where one closed area of each view meets, each drawn through space along its view's depth
/// (Aldefeld 1983; Shin & Shin 1998). Optionally cut further at every coordinate of the sheet.
class ProductCells final : public CellModel {
  public:
    ProductCells(const std::vector<ViewMap>& maps, bool gridded);
    Ray ray(int map, Vec2 at) override;
    int cells() const override { return static_cast<int>(keys_.size()); }
    /// Area of each view that the cell lies in, by map.
    std::vector<int> areasOf(int cell) const {
        return {keys_[cell].begin(), keys_[cell].begin() + static_cast<long>(maps_->size())};
    }
    /// Of a gridded model: the interval between levels of an axis that a cell lies in; from the first to the
    /// second level it is 0.
    int intervalOf(int cell, Axis a) const;
    /// The cell of an uncut model in which these areas meet; -1 when no line of sight has met it.
    int find(const std::vector<int>& areas) const {
        const auto it = index_.find(areas);
        return it == index_.end() ? -1 : it->second;
    }
    /// Every coordinate along an axis, sorted.
    const std::vector<double>& levels(Axis a) const { return levels_[static_cast<size_t>(a)]; }

  private:
    int cellOf(const std::vector<int>& key);
    struct Hash {
        size_t operator()(const std::vector<int>& key) const {
            return std::hash<std::string_view>{}(
                {reinterpret_cast<const char*>(key.data()), key.size() * sizeof(int)});
        }
    };
    std::array<std::vector<double>, 3> levels_;
    bool gridded_;
    std::unordered_map<std::vector<int>, int, Hash> index_;
    std::vector<std::vector<int>> keys_;
};

/// A part of revolution: a cell is an area of the half profile, turned round the centre line.
class TurnedCells final : public CellModel {
  public:
    /// `profile`: map of the profile view; its centre line runs along the view's up or right axis and stands
    /// at `at` on the other one; `middle`: where the axis lies in the profile view's depth.
    /// `side`: the half of the profile that is turned, +1 beyond the centre line, -1 before it.
    TurnedCells(const std::vector<ViewMap>& maps, int profile, bool upright, double at, double middle,
                int side = 1);
    Ray ray(int map, Vec2 at) override;
    int cells() const override { return static_cast<int>((*maps_)[profile_].areas().size()); }

  private:
    int profile_;
    Axis axis_, radial_, depth_; ///< along the centre line, across it in the profile, and through the profile
    double at_, middle_;
    int side_;
};

/// Cells of one model cut by those of another. Certainly air where the second one says so; and where the
/// first one does, if what it stands for is all there is.
class MetCells final : public CellModel {
  public:
    enum class First { bounds, divides };
    /// Both stand on the same maps and must outlive it.
    MetCells(CellModel& first, CellModel& second, First what = First::bounds)
        : CellModel(first.maps()), first_(first), second_(second), what_(what) {}
    Ray ray(int map, Vec2 at) override;
    int cells() const override { return static_cast<int>(keys_.size()); }
    /// The cells of both models that meet there; -1 for the first one where it has none.
    std::pair<int, int> of(int cell) const { return keys_[static_cast<size_t>(cell)]; }
    /// Whether lines of sight have met a cell of the first model where the second one says air.
    bool reachesOut(int first) const { return outside_.contains(first); }

  private:
    CellModel &first_, &second_;
    First what_;
    std::set<int> outside_;
    std::unordered_map<uint64_t, int> index_; ///< by the cells of both models
    std::vector<std::pair<int, int>> keys_;
};

} // namespace prism
