#include "app/sheet/scan_backdrop.h"

#include "app/theme/theme.h"

#include <QImage>
#include <QPainterPath>

namespace prism::app {

void ScanBackdrop::rebuild(const std::vector<Picture>& pictures) {
    pictures_ = pictures;
    const auto scan = pictures.empty() ? nullptr : pictures[0].scan;
    if (scan == scan_) return;
    scan_ = scan;
    smaller_.clear();
    if (!scan_) return;
    measurePaper(*scan_);
    const bool light = pictures[0].light_on_dark;
    const std::uint8_t* from = scan_->grey.data();
    for (int w = scan_->width, h = scan_->height; w > 400 && h > 400;) {
        Level l{w / 2, h / 2, {}};
        l.grey.resize(static_cast<size_t>(l.width) * l.height);
        for (int y = 0; y < l.height; ++y) {
            const std::uint8_t* a = from + static_cast<size_t>(2 * y) * w;
            for (int x = 0; x < l.width; ++x) {
                // Half of the mean and half of what is most ink: thin lines stay visible from afar.
                const std::array<int, 4> v{a[2 * x], a[2 * x + 1], a[w + 2 * x], a[w + 2 * x + 1]};
                const int ink = light ? std::ranges::max(v) : std::ranges::min(v);
                l.grey[static_cast<size_t>(y) * l.width + x] =
                    static_cast<std::uint8_t>(((v[0] + v[1] + v[2] + v[3]) / 4 + ink) / 2);
            }
        }
        w = l.width, h = l.height;
        smaller_.push_back(std::move(l));
        from = smaller_.back().grey.data();
    }
}

/// The paper is the commonest grey; full ink lies where only a few in a thousand pixels are further from it.
void ScanBackdrop::measurePaper(const ScanPixels& s) {
    std::array<size_t, 256> count{};
    for (std::uint8_t v : s.grey) ++count[v];
    paper_ = static_cast<int>(std::ranges::max_element(count) - count.begin());
    const size_t few = s.grey.size() / 300;
    const bool light = pictures_[0].light_on_dark;
    ink_ = light ? 255 : 0;
    for (size_t sum = 0; ink_ != paper_ && (sum += count[static_cast<size_t>(ink_)]) < few;)
        ink_ += light ? -1 : 1;
    if (ink_ == paper_) ink_ = light ? 255 : 0;
}

void ScanBackdrop::paint(QPainter& p, double pixelsPerUnit, const Box2& visible) const {
    for (const Picture& picture : pictures_) paintPicture(p, picture, pixelsPerUnit, visible);
}

void ScanBackdrop::paintPicture(QPainter& p, const Picture& picture, double pixelsPerUnit,
                                const Box2& visible) const {
    QPolygonF frame;
    Box2 covered;
    for (Vec2 c : picture.corners()) frame << QPointF(c.x, c.y), covered.add(c);
    QPen pen(theme::rule(), 1);
    pen.setCosmetic(true);
    p.setPen(pen);
    p.setBrush(Qt::NoBrush);
    p.drawPolygon(frame);
    if (!covered.overlaps(visible)) return;
    int level = 0, w = scan_->width, h = scan_->height;
    const std::uint8_t* from = scan_->grey.data();
    for (double fine = pixelsPerUnit * picture.pixel;
         fine <= 0.5 && level < static_cast<int>(smaller_.size()); fine *= 2) {
        const Level& l = smaller_[level++];
        w = l.width, h = l.height, from = l.grey.data();
    }
    const double shrink = std::pow(2.0, level);
    const Affine2 back = picture.to_sheet.inverse();
    Box2 seen;
    for (Vec2 c : {visible.lo, {visible.hi.x, visible.lo.y}, visible.hi, {visible.lo.x, visible.hi.y}})
        seen.add(back(c));
    const int x0 = std::max(0, int(std::max(seen.lo.x, picture.region.lo.x) / shrink) - 1),
              y0 = std::max(0, int(std::max(seen.lo.y, picture.region.lo.y) / shrink) - 1),
              x1 = std::min(w, int(std::min(seen.hi.x, picture.region.hi.x) / shrink) + 2),
              y1 = std::min(h, int(std::min(seen.hi.y, picture.region.hi.y) / shrink) + 2);
    if (x0 >= x1 || y0 >= y1) return;
    std::array<QRgb, 256> tone{};
    const QColor ink = theme::ink();
    for (int v = 0; v < 256; ++v) {
        // A little off the paper is paper still.
        const double dark = std::clamp((double(v - paper_) / (ink_ - paper_) - 0.12) / 0.88, 0.0, 1.0);
        tone[static_cast<size_t>(v)] =
            qPremultiply(qRgba(ink.red(), ink.green(), ink.blue(), int(255 * dark * strength_)));
    }
    QImage image(x1 - x0, y1 - y0, QImage::Format_ARGB32_Premultiplied);
    for (int y = y0; y < y1; ++y) {
        auto* out = reinterpret_cast<QRgb*>(image.scanLine(y - y0));
        const std::uint8_t* row = from + static_cast<size_t>(y) * w;
        for (int x = x0; x < x1; ++x) *out++ = tone[row[x]];
    }
    const Affine2 m =
        picture.to_sheet * Affine2::scale(shrink, shrink) * Affine2::shift({double(x0), double(y0)});
    p.save();
    QPainterPath clip;
    clip.addPolygon(frame);
    clip.closeSubpath();
    p.setClipPath(clip);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.setTransform(QTransform(m.a, m.b, m.c, m.d, m.e, m.f), true);
    p.drawImage(0, 0, image);
    p.restore();
    if (picture.name.empty() || pictures_.size() < 2) return;
    p.save();
    const QPointF at = p.transform().map(frame[0]);
    p.resetTransform();
    p.setFont(theme::lettering(15));
    p.setPen(theme::faint());
    p.drawText(at + QPointF(3, -5), QString::fromStdString(picture.name));
    p.restore();
}

} // namespace prism::app
