#pragma once
#include "app/sheet/fold_line_layer.h"
#include "app/sheet/pickers.h"
#include "app/sheet/scan_backdrop.h"
#include "app/sheet/sheet_picture.h"

#include <QPixmap>
#include <QTimer>
#include <QWidget>

namespace prism::app {

/// The flat drawing. Shows the sheet as it now stands; lines, dimensions, areas and marks can be picked.
class SheetCanvas : public QWidget {
    Q_OBJECT
  public:
    enum class Picking {
        lines, ///< chosen by click, box or lasso
        areas,
        mark,
        axis,
        place,      ///< a place of the sheet, with snaps
        line,       ///< one line, at the place where it is clicked
        part_line,  ///< lines of the part that a step begins with
        circle,     ///< circles of the part, by a click inside
        view_place, ///< any place of a view
        box,        ///< a box is drawn
        proposed,   ///< proposed lines, by click or box
    };

    explicit SheetCanvas(Session& session, QWidget* parent = nullptr);

    void setPicking(Picking p);
    /// Areas shown as picked, by their points as drawn.
    void setAreas(const ViewName& view, const std::vector<Vec2>& seeds);
    /// What kind of mark may be picked.
    void setMarkFilter(const MarkFilter& filter) { marks_.setFilter(filter); }
    /// Once areas are picked: the marks that say how far they reach.
    void setReachMarks(const std::optional<MarkFilter>& marks) { areas_.setReach(marks); }
    /// The view whose centre lines may be picked as an axis.
    void setAxisView(const ViewName& view) { axes_.setView(view); }
    /// A sentence shown over the canvas while something is to be picked.
    void setHint(const QString& hint);
    const QString& hint() const { return hint_; }
    void setShowProof(bool on);
    /// Draws the lines about which the views fold, and lets them be moved.
    void setShowFoldLines(bool on);
    const FoldLineLayer& foldLines() const { return fold_lines_; }
    void setShowProjectors(bool on);
    /// Light lines on a dark ground, for sheets drawn that way.
    void setDarkPaper(bool on);
    bool darkPaper() const { return dark_; }
    /// Where the next place is seen from: offers feet and touching points.
    void setSnapFrom(std::optional<Vec2> from) { snap_from_ = from; }
    /// Lines shown as about to be drawn.
    void setGhost(std::vector<Curve> curves);
    /// Lines seen in a scan, taken or not.
    struct Proposed {
        Curve shape;
        bool taken;
    };
    void setProposed(std::vector<Proposed> lines);
    const std::vector<Proposed>& proposed() const { return proposed_; }
    /// How strongly scans show under the lines, 0 to 1.
    void setBackdropStrength(double strength);
    /// Shows the sheet as drawn instead of with its driven numbers: marks are made on the drawing.
    void showAsDrawn(bool on);
    /// Shows other scans than those of the sheet, until the sheet changes.
    void setBackdrop(const std::vector<Picture>& pictures);
    void fit();
    /// Whether fitting shows the whole sheet or the views with their dimensions. A canvas that nobody has
    /// moved follows at once.
    void setFitWholeSheet(bool whole);
    void lookAt(const std::vector<Vec2>& places);
    /// Brings a place to the middle, near enough to see a gap of tenths of a millimetre.
    void lookClose(Vec2 place);

    /// The strokes as they are shown.
    const SheetPicture& picture() const { return picture_; }
    QPointF toScreen(Vec2 sheet) const;
    Vec2 toSheet(QPointF screen) const;
    double scale() const { return scale_; }
    Session& session() const { return session_; }
    /// The drawing with its lines where they are shown.
    const Drawing& drawingShown() const { return *drawing_shown_; }
    QPainterPath areaPath(const ClosedArea& a) const;
    /// The place meant by one near it.
    Snapped snapAt(Vec2 at) const;
    /// A fold line under the pointer may be taken hold of.
    void hoverFoldLine(QPointF at);
    const FoldLine* foldLineUnderPointer() const {
        return hover_fold_ < 0 ? nullptr : &fold_lines_.lines()[hover_fold_];
    }

  signals:
    void areaPicked(const prism::ViewName& view, prism::Vec2 seed_as_drawn);
    /// Several at once, of one view.
    void areasPicked(const prism::PickedAreas& areas);
    void markPicked(const prism::MarkRef& mark, double value);
    /// An open outline was clicked that can be closed so.
    void gapPicked(const prism::Remedy& remedy);
    void stepPlacePicked(const prism::MarkRef& place);
    void axisPicked(const prism::MarkRef& mark, bool upright);
    void placePicked(prism::Vec2 at, int line); ///< line -1 when none lies there
    void placeHovered(prism::Vec2 at);
    void boxDrawn(prism::Box2 box);
    void proposedPicked(const std::vector<int>& lines);
    void dimensionActivated(int dimension);
    void foldLineMoved(int line, double by); ///< `by`: away from the part, sheet units
    void placesDone();                       ///< no further place is wanted
    void pickingLeft();
    void pointedAt(const QString& words);

  protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void leaveEvent(QEvent*) override;
    bool event(QEvent* e) override;

  private:
    void refresh();
    void zoomAt(QPointF centre, double factor);
    void paintProposed(QPainter& p);
    void paintGhost(QPainter& p);
    QTransform world() const;
    void paintFilm();
    bool filmFits() const;
    void drawFilm(QPainter& p);
    void viewMoves();
    void paintMarked(QPainter& p, const Marked& m, const QColor& color, double width);
    void paintAreas(QPainter& p);
    void paintProof(QPainter& p);
    void paintOverlay(QPainter& p);
    void paintProjectors(QPainter& p);
    const theme::Paper& paper() const { return theme::paper(dark_); }
    void findPickedAreas();

    Session& session_;
    SheetPicture picture_;
    std::shared_ptr<const Drawing> drawing_shown_; ///< with its lines where they are shown
    bool as_drawn_ = false;
    ScanBackdrop backdrop_;
    FoldLineLayer fold_lines_;
    bool show_fold_lines_ = false, show_projectors_ = false, dark_ = false;
    int hover_fold_ = -1;
    std::vector<Proposed> proposed_;
    LinePicker lines_{*this};
    AreaPicker areas_{*this};
    MarkPicker marks_{*this};
    AxisPicker axes_{*this};
    StepPlacePicker part_lines_{*this, StepPlacePicker::Of::line},
        circles_{*this, StepPlacePicker::Of::circle}, view_places_{*this, StepPlacePicker::Of::place};
    PlacePicker places_{*this, true}, on_lines_{*this, false};
    BoxPicker boxes_{*this};
    ProposedPicker proposals_{*this};
    Picker* picker_ = &lines_;
    double scale_ = 1; ///< pixels per sheet unit
    Vec2 centre_;      ///< sheet point in the middle of the widget
    /// The drawing as last painted. While a heavy sheet is moved it is shown shifted and scaled, and painted
    /// anew when the hand rests.
    struct Film {
        QPixmap pixels;
        double scale = 0;
        Vec2 centre;
        QSize size;
    } film_;
    QTimer rest_;
    bool fitted_ = false, whole_sheet_ = true, moved_ = false;
    ViewName area_view_ = Role::front;
    std::vector<Vec2> area_seeds_;
    std::vector<QPainterPath> picked_paths_;
    std::optional<Vec2> snap_from_;
    std::vector<Curve> ghost_;
    QString hint_;
    bool show_proof_ = false;
    std::optional<QPointF> press_, pan_;
    QRectF rubber_;
    QPolygonF lasso_; ///< screen; drawn with Alt
};

} // namespace prism::app
