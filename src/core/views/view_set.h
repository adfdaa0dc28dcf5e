#pragma once
#include "core/cleaning/clean_sheet.h"
#include "core/drawing/sheet_unit.h"

#include <array>
#include <set>

namespace prism {

enum class Role { front, top, bottom, left, right, rear, section, auxiliary, detail, pictorial, unassigned };
const char* nameOf(Role r);
std::optional<Role> roleNamed(const std::string& name);
/// The letter tag of a role: F T B L R K, S A D P, and '?' while unassigned.
char tagOf(Role r);
/// Whether the view is one of the six principal ones, which have model axes.
bool isPrincipal(Role r);

/// How a step or a mark names a view: by its role and, for views of which a sheet may show several, by the
/// letter that tells them apart ("front", "section A").
struct ViewName {
    Role role = Role::unassigned;
    std::string letter;
    ViewName(Role r = Role::unassigned, std::string l = {}) : role(r), letter(std::move(l)) {}
    friend bool operator==(const ViewName&, const ViewName&) = default;
};
std::string nameOf(const ViewName& n);
std::optional<ViewName> viewNamed(const std::string& name);

enum class Convention { first, third };
const char* nameOf(Convention c);

/// Model axes: X right, Y away from the viewer of the front view, Z up. An auxiliary view counts one of its
/// coordinates along an axis of its own, which has a value above these.
enum class Axis { x = 0, y = 1, z = 2 };
inline constexpr int kModelAxes = 3;
const char* nameOf(Axis a);
inline bool isModelAxis(Axis a) {
    return static_cast<int>(a) < kModelAxes;
}

/// Which model axis runs to the right and which up in a principal view, and with which sign (ISO 5456-2).
struct ViewAxes {
    Axis right, up;
    int right_sign, up_sign;
    Axis depth; ///< the axis that points through the sheet
};
ViewAxes axesOf(Role r);

/// Unit vector along an axis.
Vec3 unitOf(Axis a);
/// The direction in which a principal view is looked at.
Vec3 lookOf(Role r);
/// Whether the viewer of a principal view stands at the low end of its depth axis.
inline bool viewerAtLowEnd(Role r) {
    const Vec3 look = lookOf(r);
    return look.x + look.y + look.z > 0;
}

/// How a section, an auxiliary or a detail view stands in the box: upright on the plane of the view that
/// shows where it is taken, or, for a detail, on that plane.
struct Hanging {
    enum class By {
        cutting_plane, ///< a line with arrows and the letter of the section
        centre_line,   ///< a centre line between the letters of the section, which are not at its ends
        arrow,         ///< one arrow with the letter of the view
        edge,          ///< an oblique edge that the view was drawn square to
        area,          ///< a circle with the letter of the detail
        hand           ///< a line that a person drew
    };
    int on = -1; ///< the view that shows it; a principal one
    By by = By::hand;
    Vec2 from, to; ///< where the plane stands on that view (for an area, its extent); its coordinates, mm
    Vec2 look;     ///< unit direction in which it is looked at, in the same coordinates; none for an area
    /// From the sheet to (along the line from the origin, along the axis that points through `on`), mm; for
    /// an area to the coordinates of `on`.
    Affine2 own;
    int matched = 0, levels = 0; ///< coordinates found again in the other views, of how many
    double residual = 0; ///< mm from an end of this view to the nearest coordinate of the others, the largest
    double gap = 0;      ///< mm from the part to the line, where it lies outside the part
    std::string reason;

    bool cuts = false; ///< a section, which stands at the line; others stand outside the part
    /// Of a stepped section: the parts of its cutting plane in order, each in the coordinates of `on`; the
    /// pane stands at the first.
    std::vector<Segment> legs;
    /// Of a section that agrees with the other views only when looked at against its arrows, as it then is:
    /// the coordinates that are found again as the arrows say.
    std::optional<int> matched_by_arrows;

    bool flat() const { return by == By::area; }
    /// Unit direction of the line: `along` counts this way.
    Vec2 along() const { return {-look.y, look.x}; }
};
const char* nameOf(Hanging::By by);

struct View {
    int id = 0;      ///< index in ViewSet::views
    std::string key; ///< keyOf the first entity: survives reading the file again
    Role role = Role::unassigned;
    std::string name;                  ///< label on the sheet, or the role
    std::string letter;                ///< of a section, a detail or a view along an arrow, as its label says
    std::optional<double> label_scale; ///< that its label states
    double scale = 1;                  ///< sheet length over model length
    std::string scale_reason;
    Box2 box_sheet;            ///< of outline and hidden lines
    std::vector<int> entities; ///< outline and hidden lines
    std::vector<int> centre_lines;
    std::vector<int> dimensions;
    /// Model coordinates of the sheet origin of this view: model = sign * sheet * mm_per_sheet + offset, by
    /// axis.
    Vec2 offset;
    double mm_per_sheet = 1;
    bool in_figure = false; ///< a principal view, and the one that is used of those with its role
    std::optional<Hanging> hanging;

    char tag() const { return tagOf(role); }
    /// Sheet point to (right, up) model coordinates of the view's own axes.
    Affine2 toModel() const;
};

struct LeftOut {
    std::string what; ///< border, title_block, note, symbol, dimension, centre or unknown
    std::vector<int> entities;
};

/// A line between two letters of which no section has one, on a sheet with a section whose own letters stand
/// at no line.
struct StrayPlane {
    std::string from_letter, to_letter;
    Vec2 from, to; ///< sheet coordinates
};

/// Two views that share an axis, and what is left over when their coordinates are matched.
struct Tie {
    int a = 0, b = 0;
    Axis axis = Axis::x;
    int matched = 0, unmatched = 0;
    double residual = 0;  ///< mm, largest difference of the overall ends
    bool by_hand = false; ///< lined up by what a person tied, not by the coordinates that match
};

/// A place that a person tied, or two whose middle is meant. Sheet coordinates of the file.
struct TieSide {
    std::string view; ///< its key
    std::vector<Vec2> places;
    friend bool operator==(const TieSide&, const TieSide&) = default;
};

/// Two places said to have one coordinate. It takes the place of the coordinates that match by themselves
/// between these views along this axis.
struct HandTie {
    Axis axis = Axis::x;
    TieSide a, b;
    double weight = 1; ///< against other ties
    friend bool operator==(const HandTie&, const HandTie&) = default;
};

/// What became of a tie by hand.
struct HandTieResult {
    bool found = false;   ///< both views are there and show the axis
    double residual = 0;  ///< mm by which the second place lies beyond the first
    double by_itself = 0; ///< what it would be if the views were lined up by the coordinates that match
};

/// One thing that speaks for a unit.
struct UnitHint {
    std::string unit;
    double weight = 0;
    std::string words;   ///< what was seen
    bool agrees = false; ///< with the unit that is used
};

struct UnitEvidence {
    std::string declared; ///< what the file's head says, or "none"
    std::string used = "mm";
    double mm = 1; ///< millimetres in a drawing unit
    std::string reason;
    std::vector<UnitHint> hints;
};

struct ProjectionEvidence {
    Convention convention = Convention::third; ///< what the sheet states, or the best guess
    Convention laid_out =
        Convention::third; ///< what the roles follow: differs when the lines plainly contradict
    double confidence = 0; ///< 0 to 1
    std::string reason;
    std::optional<Convention> stated;      ///< by text or symbol
    std::optional<Convention> by_geometry; ///< by which lines are hidden
    int votes_first = 0, votes_third = 0;  ///< lines that speak for each
};

/// The projection angle that a text names, in one of the ways offices write it; none for any other text.
std::optional<Convention> angleSaidIn(const SheetText& t);

/// Where a person says that a section or an auxiliary view is taken. Sheet coordinates of the file.
struct HungByHand {
    std::string on; ///< key of the view that shows it
    Vec2 from, to;
    bool turned = false; ///< looked at from the other side
    friend bool operator==(const HungByHand&, const HungByHand&) = default;
};

/// What a person decided about the views.
struct ViewChoices {
    std::optional<Convention> convention;
    std::map<std::string, Role> roles;        ///< by view key
    std::map<std::string, std::string> moved; ///< entity key to view key; empty: left out
    std::set<std::string> made;               ///< keys of views gathered by hand out of moved lines
    std::map<std::string, std::string> names; ///< by view key
    std::map<Role, std::string> used;         ///< of several views with one role, the key of the one used
    std::map<std::string, HungByHand> hung;   ///< by key of the section or auxiliary view
    std::map<std::string, double> fold_gap;   ///< mm from the part to the fold line of a view, by its key
    std::set<std::string> locked;             ///< keys of views whose place is not to be changed
    std::optional<int> part;                  ///< of several on the sheet, the one that is worked on
    std::optional<double> scale;              ///< of the whole sheet
    std::optional<std::string> unit;
    std::vector<HandTie> ties;
    std::map<Axis, std::string> governing; ///< key of the view that stays where it is, by axis
    std::map<Axis, TieSide> zero;          ///< what has the coordinate 0, by axis
    friend bool operator==(const ViewChoices&, const ViewChoices&) = default;
};

/// One of the parts that a sheet shows, each with views of its own.
struct PartOnSheet {
    Box2 box;               ///< of its views
    int views = 0;          ///< how many
    std::vector<Box2> each; ///< of every one of them; where there are several parts
};

struct ViewSet {
    UnitEvidence unit;
    ProjectionEvidence projection;
    std::vector<View> views;
    std::vector<LeftOut> left_out;
    std::vector<Tie> ties;
    std::vector<HandTieResult> hand_ties; ///< by index in ViewChoices::ties
    std::map<Axis, int> governing;        ///< the view that the others follow, by axis
    std::vector<StrayPlane> stray_planes;
    std::vector<PartOnSheet> parts; ///< one entry unless the sheet shows several parts
    int part = 0;                   ///< the one whose views these are
    double sheet_scale = 1;
    std::vector<int> view_of_entity; ///< by entity id, -1 when in no view
    /// The sheet with what views that are drawn in part only lack; null when there is nothing to add. Takes
    /// the place of the repaired sheet: the views refer to its entities.
    std::shared_ptr<const CleanSheet> completed;

    /// The view that is used for a role.
    const View* withRole(Role r) const;
    const View* withKey(const std::string& key) const;
};

/// Width and height of a view, mm; of an auxiliary view drawn askew along its own axes.
Vec2 sizeOf(const Drawing& d, const View& v);

/// Finds the views, their roles, the projection angle, unit and scale, completes half views, and lines the
/// views up.
ViewSet findViews(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, Progress& progress);

} // namespace prism
