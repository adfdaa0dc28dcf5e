#pragma once
#include "app/box/box_scene.h"
#include "app/box/camera.h"
#include "app/box/gl_stage.h"
#include "app/box/pane_skins.h"

#include <QOpenGLBuffer>
#include <QOpenGLFunctions>
#include <QOpenGLShaderProgram>
#include <QTimer>
#include <QWidget>

namespace prism::app {

/// The 3D space: the panes folding round the part, and the solid. How to move about in it is the person's
/// choice; see Navigation.
class BoxCanvas : public QWidget, protected QOpenGLFunctions {
    Q_OBJECT
  public:
    enum class Look { corner, front, top, right };

    explicit BoxCanvas(Session& session, QWidget* parent = nullptr);
    ~BoxCanvas() override;

    double hinge() const { return hinge_; }
    void setHinge(double hinge);
    /// Whether the panes fold one after another instead of all together.
    void setOneByOne(bool on);
    void setLook(Look look);
    /// Looks square onto the pane of a view.
    void lookOnto(int view);
    void fit();
    const BoxScene& scene() const { return scene_; }
    PaneShow showOf(const std::string& key) const;
    void setShow(const std::map<std::string, PaneShow>& shows);
    void setShowProjectors(bool on);
    /// Whether panes show the scan that their views were traced from.
    void setShowScan(bool on);
    /// Draws a box of these sizes from the part's lower corner; none for a size of 0.
    void setReferenceBox(const QVector3D& size);
    const Camera& camera() const { return camera_; }
    /// Where a place in space is on the canvas.
    QPointF toScreen(const QVector3D& p) const;
    void setShowSolid(bool on);
    void setShowPanes(bool on);
    bool showsSolid() const { return show_solid_; }
    bool showsPanes() const { return show_panes_; }
    /// The solid without the panes, and back to what was shown before.
    void toggleAlone();
    /// Shows a body that a step would make.
    void setPreview(const Mesh& added, const Mesh& removed);

  signals:
    void hingeChanged(double hinge);
    void showsChanged();
    void pointedAt(const QString& words);
    /// A part of the solid was clicked, or chosen by keys and taken with Space.
    void partTaken(const prism::SolidPart& part);
    /// What a step, or another solid, would change was clicked.
    void changeTaken();
    void panesShown(bool on);
    void solidShown(bool on);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void leaveEvent(QEvent*) override;
    bool event(QEvent* e) override;

  private:
    /// Vertices on the card: position and normal, drawn as triangles or lines.
    struct Batch {
        QOpenGLBuffer buffer{QOpenGLBuffer::VertexBuffer};
        int count = 0;
    };
    void refresh();
    void releaseGl();
    void initializeGl();
    void paintGl();
    /// The view or the hinge moves: drawn plainly until it rests.
    void moves();
    void upload(Batch& b, const std::vector<float>& data);
    void uploadSolid(const Mesh& mesh, Batch& faces, Batch& edges);
    void drawBatch(Batch& b, GLenum mode, const QColor& color, float light);
    void drawNow(const std::vector<QVector3D>& points, GLenum mode, const QColor& color, float width = 1);
    void blendOver();
    void drawPanes();
    void drawPaneLines();
    void drawProjectors();
    void drawReferenceBox();
    void drawLabels(QPainter& p) const;
    void drawAxes(QPainter& p) const;
    /// How strongly a pane shows from where the camera stands; 0 when it does not.
    double strengthOf(const BoxScene::Pane& p) const;
    /// Whether a pane stands between the eye and the solid; it then steps aside, unless it is looked at
    /// square on.
    bool inFront(const BoxScene::Pane& p) const;
    int lineAt(QPointF at) const;
    /// The part of the solid under a place of the canvas; corners and edges are met some pixels beside them.
    std::optional<SolidPart> partAt(QPointF at) const;
    /// Whether what would change lies under a place, in front of or within the solid.
    bool changeAt(QPointF at) const;
    std::optional<SolidPart> partIn(const Mesh& mesh, QPointF at) const;
    /// What lies under a place: a line of a pane, else a part of the solid.
    Marked under(QPointF at) const;
    void choosePart(SolidPart::Kind kind, int step);
    QString wordsOf(SolidPart part) const;
    void uploadLit();
    /// The foremost pane under a place of the canvas; none when there is none.
    const BoxScene::Pane* paneAt(QPointF at) const;
    void zoomAt(QPointF at, float factor);
    float aspect() const { return static_cast<float>(width()) / static_cast<float>(std::max(1, height())); }

    Session& session_;
    GlStage stage_;
    QTimer rest_;
    BoxScene scene_;
    Camera camera_;
    double hinge_ = 1;
    bool one_by_one_ = false, show_projectors_ = false, show_scan_ = true;
    PaneSkins skins_;
    QVector3D reference_;
    std::map<std::string, PaneShow> shows_; ///< by view key
    float fitted_size_ = 0;
    bool show_solid_ = true, show_panes_ = true, fitted_ = false, solid_stale_ = true, preview_stale_ = false,
         lit_stale_ = true;
    Mesh added_, removed_; ///< what a step would change
    std::unique_ptr<QOpenGLShaderProgram> program_;
    Batch faces_, edges_, lost_faces_, lost_edges_, added_faces_, added_edges_, removed_faces_,
        removed_edges_;
    /// Parts of the solid that are lit, as uploaded.
    struct Lit {
        std::set<SolidPart> parts;
        Batch faces, edges, corners;
    };
    Lit lit_chosen_, lit_pointed_;
    QPointF last_, press_;
    bool turning_ = false, panning_ = false;
};

} // namespace prism::app
