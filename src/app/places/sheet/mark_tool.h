#pragma once
#include "app/session/session.h"
#include "core/marking/dimensioning.h"
#include "core/marking/line_edits.h"

namespace prism::app {

/// One tool of the mark-up: gathers picks on the sheet and turns them into a change. Coordinates are those of
/// the canvas; marks are kept in the file's.
class MarkTool : public QObject {
    Q_OBJECT
  public:
    enum class Kind {
        none,
        line,
        arc,
        circle,
        curve, ///< through any number of places
        trim,
        extend,
        corner,
        offset,
        move,
        remove,
        distance,
        aligned,
        radius,
        diameter,
        angle
    };

    explicit MarkTool(Session& session, QObject* parent) : QObject(parent), session_(session) {}
    void start(Kind k);
    Kind kind() const { return kind_; }
    /// Whether the next pick is a place with snaps (or a line where it is).
    bool wantsPlace() const;
    void pick(Vec2 at, int entity);
    /// Ends a curve at the last place picked.
    void endCurve();
    /// What the tool would draw with the pointer here.
    std::vector<Curve> ghost(Vec2 at) const;
    /// Place from which the next one is seen, for tangents and feet.
    std::optional<Vec2> from() const;
    QString hint() const;
    void setRole(LineRole r) { role_ = r; }
    void setSays(std::optional<double> v) { says_ = v; }
    void setOffset(double sheetUnits) { offset_ = sheetUnits; }

  signals:
    void stepped(); ///< hint, ghost or wanted pick may have changed
    void refused(const QString& why);

  private:
    void finish();
    void add(const QString& label, const Curve& c);
    void reshape(const QString& label, const Result<LineEdits>& edits);
    void addDimension(const Result<AddedDimension>& made);
    int wanted() const;
    const Model& model() const { return session_.model(); }

    Session& session_;
    Kind kind_ = Kind::none;
    std::vector<LinePick> picks_;
    LineRole role_ = LineRole::outline;
    std::optional<double> says_;
    double offset_ = 10;
};

} // namespace prism::app
