#pragma once
#include "app/session/session.h"
#include "core/views/panes.h"

#include <QVector3D>

namespace prism::app {

/// From where a pane shows its view.
enum class PaneSide { outside, both, ghost };
/// How one pane is shown. Belongs to the window, not to the document.
struct PaneShow {
    bool on = true;
    PaneSide side = PaneSide::both;
    double opacity = 1; ///< 0 to 1
};

/// What the box canvas shows: the panes with their lines for a given hinge, and the extent of it all.
struct BoxScene {
    struct Line {
        int entity; ///< of the drawing
        LineRole role;
        bool thin;                                ///< freehand, or hatching
        std::vector<Vec2> flat;                   ///< in the view's own coordinates
        std::vector<std::vector<QVector3D>> runs; ///< in the box; several where the pane steps under it
    };
    struct Pane {
        int view = 0;
        Role role = Role::front;
        std::string key;
        QString name;
        bool spare = false;             ///< shares its role with the view that is used
        std::optional<Hanging> hanging; ///< as the figure now stands
        Affine2 to_own;                 ///< from the sheet
        Box2 on_sheet;
        Box2 extent;   ///< own coordinates
        int order = 0; ///< in which it folds
        PaneFrame frame;
        QVector3D facing; ///< towards whoever sees it the right way round
        std::array<QVector3D, 4> corners;
        std::vector<std::array<QVector3D, 4>> faces; ///< one, or those of a pane that steps
        std::vector<Line> lines;
        PaneShow show;
    };
    std::vector<Pane> panes;
    std::pair<QVector3D, QVector3D> part; ///< corners of the part's box

    /// `shows`: how panes are shown, by view key; spare ones are off unless told otherwise.
    void rebuild(const Shown& s, const ViewChoices& choices, const std::map<std::string, PaneShow>& shows);
    /// Puts the panes where they stand for a hinge: 0 flat, 1 box; all together or one after another.
    void fold(double hinge, bool one_by_one);

    const Pane* paneOf(int view) const;
    /// Where a place of the sheet is in space, on the pane of the view it is in or beside.
    std::optional<QVector3D> onPane(Vec2 sheet) const;
    /// The lines that join the places of a projector: through the box when it is closed, else over the panes
    /// and their fold lines.
    std::vector<QVector3D> projectorLines(const Projector& p, double hinge) const;

  private:
    void addPane(const Shown& s, const View& v);
    double turnOf(const Pane& p, double hinge, bool one_by_one) const;

    std::optional<GlassBox> box_;
    std::shared_ptr<const Model> model_;
    int folding_ = 0; ///< panes that fold
};

} // namespace prism::app
