#pragma once
#include "app/session/session.h"
#include "core/marking/snaps.h"
#include "core/project/picking.h"

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

class AreaPicker final : public Picker {
  public:
    using Picker::Picker;
    void hover(QPointF at) override;
    void click(QPointF at, Qt::KeyboardModifiers keys) override;
    void forget() override { hover_ = nullptr; }
    void paintOnSheet(QPainter& p) const override;

  private:
    const ClosedArea* hover_ = nullptr;
};

class MarkPicker final : public Picker {
  public:
    using Picker::Picker;
    void setFilter(MarkFilter f) { filter_ = std::move(f); }
    void hover(QPointF at) override;
    void click(QPointF at, Qt::KeyboardModifiers keys) override;
    void forget() override { hover_.reset(); }
    void paintOver(QPainter& p) const override;

  private:
    MarkFilter filter_;
    std::optional<PickedMark> hover_;
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
