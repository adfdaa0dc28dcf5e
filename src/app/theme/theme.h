#pragma once
#include "core/views/view_set.h"

#include <QColor>
#include <QFont>
#include <QIcon>

class QApplication;
class QPainter;
class QRectF;

// Looks shared by everything: drafting film and ink on a well-lit desk.
namespace prism::app::theme {

QColor desk();   ///< what the sheet lies on
QColor film();   ///< the sheet and the box's ground
QColor card();   ///< panels and tables
QColor ink();    ///< lines and text
QColor faint();  ///< secondary text and guides
QColor rule();   ///< hairlines between panels
QColor signal(); ///< vermilion: what needs a person
QColor point();  ///< petrol: what is pointed at or chosen

/// The colours of a sheet: on light film, or on dark paper for those who draw that way.
struct Paper {
    QColor ground, ink, faint, centre, other, dimension, point;
};
const Paper& paper(bool dark);

/// The tint by which a view is recognised everywhere.
QColor tintOf(Role r);
/// Lettering of drawings, of the given height in pixels.
QFont lettering(double pixels);

/// States and severities, told by shape.
enum class Glyph { none, drives, reports, loose, held, clashes, error, warning, note, good, idle };
void drawGlyph(QPainter& p, Glyph g, const QRectF& box, const QColor& color);
QIcon icon(Glyph g);
QColor colorOf(Glyph g);
/// The letter tag of a view on its tint.
void drawTag(QPainter& p, Role r, const QRectF& box);
QIcon tagIcon(Role r);
/// The sign that stands at the place of a finding, on either canvas.
void drawEvidence(QPainter& p, QPointF at);
/// What an empty canvas says: what it is for and what to do.
void drawWelcome(QPainter& p, const QRectF& canvas, const QString& what, const QString& todo);

/// Fonts, palette and style sheet.
void apply(QApplication& app);

} // namespace prism::app::theme
