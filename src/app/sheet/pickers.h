#pragma once
#include "app/session/session.h"
#include "core/marking/snaps.h"
#include "core/project/area_picking.h"

#include <QPolygonF>

#include <memory>

class QPainter;

// What the pointer does on the sheet canvas: one object for each kind of thing that is picked there.
namespace prism::app {

class SheetCanvas;

class Picker {
  public:
    explicit Picker(SheetCanvas& canvas) : canvas_(canvas) {}
    virtual ~Picker() = default;
    Picker(const Picker&) = delete;
    Picker& operator=(const Picker&) = delete;

    /// The pointer is here; what it points at is told and lit.
    virtual void hover(QPointF at) = 0;
    virtual void click(QPointF at, Qt::KeyboardModifiers keys) = 0;
    /// Whether a drag draws a box, and with Alt a lasso.
    virtual bool drawsBoxes() const { return false; }
    virtual bool drawsLassos() const { return false; }
    virtual void boxed(const QRectF& /*box*/, const QPolygonF& /*lasso*/, Qt::KeyboardModifiers /*keys*/) {}
    virtual void doubleClick(QPointF /*at*/) {}
    /// Whether a quick second click is a click like any other.
    virtual bool clicksTwice() const { return false; }
    /// Enter: nothing more is wanted. False: it means nothing here.
    virtual bool enough() { return false; }
    virtual void leave();
    /// What was under the pointer is there no more.
    virtual void forget() {}
    virtual void paintOnSheet(QPainter& /*p*/) const {}
    virtual void paintOver(QPainter& /*p*/) const {}

  protected:
    const Session& session() const;
    const Model& model() const { return session().model(); }
    /// Sheet units within which a thing is pointed at.
    double reach() const;
    /// A lasso, or else a box, as a polygon on the sheet.
    std::vector<Vec2> outlineOf(const QRectF& box, const QPolygonF& lasso) const;
    /// Lights the line or dimension under the pointer, and tells what it is.
    void pointAt(Vec2 sheet);

    SheetCanvas& canvas_;
};

/// Lines and dimensions: pointed at, chosen by click, box or lasso; fold lines taken hold of.
class LinePicker final : public Picker {
  public:
    using Picker::Picker;
    void hover(QPointF at) override;
    void click(QPointF at, Qt::KeyboardModifiers keys) override;
    bool drawsBoxes() const override { return true; }
    bool drawsLassos() const override { return true; }
    void boxed(const QRectF& box, const QPolygonF& lasso, Qt::KeyboardModifiers keys) override;
    void doubleClick(QPointF at) override;
    void leave() override;

    /// A lasso left open: its ends are further apart than a third of the way along it.
    static bool isOpen(const QPolygonF& lasso);
};

class MarkPicker final : public Picker {
  public:
    using Picker::Picker;
    void setFilter(MarkFilter f) { filter_ = std::move(f); }
    void hover(QPointF at) override;
    void click(QPointF at, Qt::KeyboardModifiers keys) override;
    void forget() override { hover_.reset(); }
    void paintOver(QPainter& p) const override;

    bool found() const { return hover_.has_value(); }

  private:
    MarkFilter filter_;
    std::optional<PickedMark> hover_;
};

/// Closed areas; and, once some of a view are picked, lines and points of the other views, which say how far
/// these reach. Areas of other views are left alone then, so that a stray click loses nothing.
class AreaPicker final : public Picker {
  public:
    using Picker::Picker;
    /// The marks that may say a reach; none while no area is picked.
    void setReach(const std::optional<MarkFilter>& marks);
    void hover(QPointF at) override;
    void click(QPointF at, Qt::KeyboardModifiers keys) override;
    bool drawsBoxes() const override { return true; }
    bool drawsLassos() const override { return true; }
    /// Areas wholly within, with Shift also those that it cuts; all are let go when all were picked.
    void boxed(const QRectF& box, const QPolygonF& lasso, Qt::KeyboardModifiers keys) override;
    bool enough() override;
    void forget() override { hover_ = nullptr, gap_ = nullptr, marks_.forget(); }
    void paintOnSheet(QPainter& p) const override;
    /// Also where an outline does not quite close.
    void paintOver(QPainter& p) const override;

  private:
    /// The outline that is open at a place of the canvas; null where none is.
    const Finding* gapAt(QPointF at) const;

    const ClosedArea* hover_ = nullptr;
    const Finding* gap_ = nullptr; ///< an open outline under the pointer
    std::optional<MarkFilter> reach_marks_;
    MarkPicker marks_{canvas_};
};

/// What a step begins with besides areas: lines of the part, circles, or a place in a view.
class StepPlacePicker final : public Picker {
  public:
    enum class Of { line, circle, place };
    StepPlacePicker(SheetCanvas& canvas, Of of) : Picker(canvas), of_(of) {}
    void hover(QPointF at) override;
    void click(QPointF at, Qt::KeyboardModifiers keys) override;
    bool enough() override;
    void forget() override { hover_.reset(); }

  private:
    Of of_;
    std::optional<MarkRef> hover_;
};

class AxisPicker final : public Picker {
  public:
    using Picker::Picker;
    void setView(ViewName view) { view_ = std::move(view); }
    void hover(QPointF at) override;
    void click(QPointF at, Qt::KeyboardModifiers keys) override;
    void forget() override { hover_.reset(); }

  private:
    ViewName view_ = Role::front;
    std::optional<PickedAxis> hover_;
};

/// A place of the sheet, with snaps; or one line, at the place where it is clicked.
class PlacePicker final : public Picker {
  public:
    PlacePicker(SheetCanvas& canvas, bool snaps) : Picker(canvas), snaps_(snaps) {}
    void hover(QPointF at) override;
    void click(QPointF at, Qt::KeyboardModifiers keys) override;
    bool clicksTwice() const override { return snaps_; }
    bool enough() override;
    void forget() override { hover_.reset(); }
    void paintOver(QPainter& p) const override;

  private:
    bool snaps_;
    std::optional<Snapped> hover_;
};

class BoxPicker final : public Picker {
  public:
    using Picker::Picker;
    void hover(QPointF at) override;
    void click(QPointF /*at*/, Qt::KeyboardModifiers /*keys*/) override {}
    bool drawsBoxes() const override { return true; }
    void boxed(const QRectF& box, const QPolygonF& lasso, Qt::KeyboardModifiers keys) override;
};

/// Proposed lines: those that lie within a box, or the nearest to a click.
class ProposedPicker final : public Picker {
  public:
    using Picker::Picker;
    void hover(QPointF at) override;
    void click(QPointF at, Qt::KeyboardModifiers keys) override;
    bool clicksTwice() const override { return true; }
    bool drawsBoxes() const override { return true; }
    void boxed(const QRectF& box, const QPolygonF& lasso, Qt::KeyboardModifiers keys) override;
};

} // namespace prism::app
