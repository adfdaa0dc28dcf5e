#include "app/sheet/sheet_canvas.h"

#include "app/theme/theme.h"

#include <QPainter>

// How the sheet canvas paints itself; what it answers to is in sheet_canvas.cpp.
namespace prism::app {

QPainterPath SheetCanvas::areaPath(const ClosedArea& a) const {
    const Figure& f = session_.model().figure;
    const Affine2 back = ontoSheet(f, *f.viewById(a.view), f.now);
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    auto add = [&](const Loop& l) {
        QPolygonF poly;
        for (const AreaEdge& e : l)
            for (Vec2 p : sampled(e.shape, boxOf(e.shape).diagonal() * 1e-3)) {
                const Vec2 s = back(p);
                poly.push_back({s.x, s.y});
            }
        path.addPolygon(poly);
        path.closeSubpath();
    };
    add(a.outer);
    for (const Loop& h : a.holes) add(h);
    return path;
}

void SheetCanvas::paintAreas(QPainter& p) {
    QColor fill = theme::point();
    fill.setAlpha(90);
    for (const QPainterPath& path : picked_paths_) p.fillPath(path, QBrush(fill));
    picker_->paintOnSheet(p);
}

void SheetCanvas::paintMarked(QPainter& p, const Marked& m, const QColor& color, double width) {
    QPen pen(color, width);
    pen.setCosmetic(true);
    pen.setCapStyle(Qt::RoundCap);
    p.setBrush(Qt::NoBrush);
    for (const SheetPicture::Line& l : picture_.lines())
        if (m.entities.contains(l.entity)) p.strokePath(l.path, pen);
    for (int d : m.dimensions) picture_.paintDimension(p, d, scale_, color, 1.8);
}

void SheetCanvas::paintProof(QPainter& p) {
    const Model& m = session_.model();
    if (!m.proof) return;
    for (const ViewProof& v : m.proof->views) {
        const Affine2 back = ontoSheet(m.figure, *m.figure.viewById(v.view), m.figure.now);
        for (const ProofPiece& piece : v.pieces) {
            if (piece.state == LineState::matched) continue;
            const Curve c = transformed(piece.shape, back);
            QPen pen(theme::signal(), 3);
            pen.setCosmetic(true);
            if (piece.state == LineState::extra) pen.setDashPattern({2, 1.5});
            p.strokePath(pathOf(c), pen);
            // Told by shape as well: a gap mark for what is missing, a plus for what is too much.
            const Vec2 at = pointAt(c, 0.5);
            const double s = 5 / scale_;
            QPen sign(theme::signal(), 1.6);
            sign.setCosmetic(true);
            p.setPen(sign);
            p.setBrush(theme::film());
            p.drawEllipse(QPointF(at.x, at.y), s, s);
            p.drawLine(QPointF(at.x - s * 0.6, at.y), QPointF(at.x + s * 0.6, at.y));
            if (piece.state == LineState::extra)
                p.drawLine(QPointF(at.x, at.y - s * 0.6), QPointF(at.x, at.y + s * 0.6));
        }
    }
}

/// Lines seen in a scan: those taken drawn through, the others broken.
void SheetCanvas::paintProposed(QPainter& p) {
    p.setBrush(Qt::NoBrush);
    for (bool taken : {false, true}) {
        p.setPen(taken ? QPen(theme::point(), 2) : QPen(theme::faint(), 1.4, Qt::DotLine));
        for (const Proposed& l : proposed_)
            if (l.taken == taken) p.drawPath(world().map(pathOf(l.shape)));
    }
}

void SheetCanvas::paintGhost(QPainter& p) {
    p.setPen(QPen(theme::point(), 1.4, Qt::DashLine));
    p.setBrush(Qt::NoBrush);
    for (const Curve& c : ghost_) p.drawPath(world().map(pathOf(c)));
}

/// Projection lines between the views that show what is pointed at, where they lie opposite each other.
void SheetCanvas::paintProjectors(QPainter& p) {
    const Model& m = session_.model();
    p.setPen(QPen(theme::signal(), 1.2, Qt::DashLine));
    for (const Projector& r : session_.projectors()) {
        std::vector<Vec2> places;
        for (const auto& [view, at] : r.shown)
            places.push_back(ontoSheet(m.figure, *m.figure.viewById(view), m.figure.now)(at));
        for (size_t i = 0; i < places.size(); ++i)
            for (size_t j = i + 1; j < places.size(); ++j) {
                const Vec2 d = places[j] - places[i];
                const double off = 1e-3 * length(d);
                if (std::abs(d.x) > off && std::abs(d.y) > off) continue;
                p.drawLine(toScreen(places[i]), toScreen(places[j]));
            }
        p.save();
        p.setBrush(paper().ground);
        p.setPen(QPen(theme::signal(), 1.4));
        for (Vec2 at : places) p.drawEllipse(toScreen(at), 2.8, 2.8);
        p.restore();
    }
}

void SheetCanvas::paintOverlay(QPainter& p) {
    const Model& m = session_.model();
    for (const View& v : m.views.views) { // letter tags, at the upper left of every view
        Box2 b;
        for (const SheetPicture::Line& l : picture_.lines())
            if (l.view == v.id) b.add(l.box);
        if (!b.valid()) continue;
        const QPointF corner = toScreen({b.lo.x, b.hi.y}) + QPointF(-6, -26);
        theme::drawTag(p, v.role, QRectF(corner, QSizeF(20, 18)));
    }
    if (show_fold_lines_) fold_lines_.paint(p, world(), paper().ink, hover_fold_);
    if (show_projectors_) paintProjectors(p);
    for (const Marked* k : {&session_.chosen(), &session_.pointed()})
        for (Vec2 place : k->places) theme::drawEvidence(p, toScreen(place));
    paintProposed(p);
    paintGhost(p);
    picker_->paintOver(p);
    if (!rubber_.isNull()) {
        QColor fill = theme::point();
        p.setPen(QPen(fill, 1));
        fill.setAlpha(30);
        p.setBrush(fill);
        if (lasso_.size() > 2)
            LinePicker::isOpen(lasso_) ? p.drawPolyline(lasso_) : p.drawPolygon(lasso_);
        else
            p.drawRect(rubber_);
    }
    if (!hint_.isEmpty()) {
        QFont f = font();
        f.setPixelSize(13);
        f.setBold(true);
        p.setFont(f);
        const QRectF box(12, height() - 36, QFontMetrics(f).horizontalAdvance(hint_) + 22, 26);
        p.fillRect(box, theme::point());
        p.setPen(theme::film());
        p.drawText(box, Qt::AlignCenter, hint_);
    }
}

bool SheetCanvas::filmFits() const {
    return !film_.pixels.isNull() && film_.scale == scale_ && film_.centre == centre_ && film_.size == size();
}

void SheetCanvas::paintFilm() {
    const qreal ratio = devicePixelRatioF();
    film_ = {QPixmap(size() * ratio), scale_, centre_, size()};
    film_.pixels.setDevicePixelRatio(ratio);
    film_.pixels.fill(paper().ground);
    QPainter p(&film_.pixels);
    p.setRenderHint(QPainter::Antialiasing);
    const Box2 visible{toSheet({0.0, double(height())}), toSheet({double(width()), 0.0})};
    p.setTransform(world());
    picture_.paintViews(p, session_.model(), scale_);
    backdrop_.paint(p, scale_, visible);
    picture_.paintLines(p, scale_, visible, paper());
    for (int i = 0; i < static_cast<int>(picture_.dimensions().size()); ++i)
        picture_.paintDimension(p, i, scale_, paper().dimension, 1);
    picture_.paintTexts(p, session_.model(), scale_, visible, paper());
}

void SheetCanvas::drawFilm(QPainter& p) {
    constexpr size_t kHeavy = 3000; ///< lines from which painting anew takes longer than a hand should feel
    const bool moving = rest_.isActive() && (picture_.lines().size() > kHeavy || !backdrop_.empty()) &&
                        !film_.pixels.isNull();
    if (!filmFits() && !moving) paintFilm();
    if (filmFits()) return p.drawPixmap(0, 0, film_.pixels);
    const double grown = scale_ / film_.scale;
    const QPointF middle = toScreen(film_.centre);
    p.drawPixmap(QRectF(middle.x() - film_.size.width() / 2.0 * grown,
                        middle.y() - film_.size.height() / 2.0 * grown, film_.size.width() * grown,
                        film_.size.height() * grown),
                 film_.pixels, QRectF(film_.pixels.rect()));
}

void SheetCanvas::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), session_.hasSheet() ? paper().ground : theme::film());
    if (!session_.hasSheet())
        return theme::drawWelcome(p, rect(), tr("The sheet"),
                                  tr("Drop a drawing here, or open one with Ctrl+O"));
    p.setRenderHint(QPainter::Antialiasing);
    drawFilm(p);
    p.setTransform(world());
    paintAreas(p);
    paintMarked(p, session_.chosen(), paper().point, 3.4);
    paintMarked(p, session_.pointed(), paper().point, 2.6);
    if (show_proof_) paintProof(p);
    p.resetTransform();
    paintOverlay(p);
}

} // namespace prism::app
