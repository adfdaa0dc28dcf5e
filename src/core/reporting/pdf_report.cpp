#include "core/reporting/report.h"

#include <cairo-pdf.h>
#include <fmt/format.h>
#include <memory>
#include <sstream>

namespace prism {
namespace {

// A4 in points, as PDF counts.
constexpr double kPoint = 72 / 25.4, kPageWidth = 210 * kPoint, kPageHeight = 297 * kPoint,
                 kMargin = 15 * kPoint;

struct Ink {
    double red, green, blue, width; ///< width: mm
};
Ink inkOf(Pen p) {
    switch (p) {
    case Pen::outline:
        return {0.14, 0.15, 0.17, 0.4};
    case Pen::hidden:
        return {0.14, 0.15, 0.17, 0.25};
    case Pen::thin:
        return {0.42, 0.40, 0.37, 0.15};
    case Pen::marked:
        break;
    }
    return {0.76, 0.22, 0.11, 0.4};
}

/// Writes one thing below the other, page after page.
class Pages {
  public:
    explicit Pages(cairo_t* c) : c_(c) {}

    void text(const std::string& s, double size, bool bold, double before) {
        y_ += before;
        for (const std::string& line : wrapped(s, size, bold, kPageWidth - 2 * kMargin)) {
            room(1.35 * size);
            y_ += 1.35 * size;
            put(line, kMargin, y_ - 0.3 * size, size, bold, Pen::outline);
        }
    }
    void rule() {
        cairo_set_source_rgb(c_, 0.72, 0.70, 0.65);
        cairo_set_line_width(c_, 0.5);
        cairo_move_to(c_, kMargin, y_ + 1.5), cairo_line_to(c_, kPageWidth - kMargin, y_ + 1.5);
        cairo_stroke(c_);
        y_ += 4;
    }
    void picture(const ReportPicture& p) {
        room(p.size.y * kPoint);
        const double left = kMargin, low = y_ + p.size.y * kPoint;
        for (const auto& s : p.strokes) {
            const Ink ink = inkOf(s.pen);
            cairo_set_source_rgb(c_, ink.red, ink.green, ink.blue);
            cairo_set_line_width(c_, ink.width * kPoint);
            const std::array dash{1.4 * kPoint, 0.8 * kPoint};
            cairo_set_dash(c_, dash.data(), s.pen == Pen::hidden ? 2 : 0, 0);
            for (size_t i = 0; i < s.points.size(); ++i) {
                const double x = left + s.points[i].x * kPoint, y = low - s.points[i].y * kPoint;
                i ? cairo_line_to(c_, x, y) : cairo_move_to(c_, x, y);
            }
            cairo_stroke(c_);
        }
        cairo_set_dash(c_, nullptr, 0, 0);
        for (const auto& w : p.words) {
            cairo_save(c_);
            cairo_translate(c_, left + w.middle.x * kPoint, low - w.middle.y * kPoint);
            cairo_rotate(c_, -w.rotation);
            const double size = w.height * kPoint;
            put(w.text, -0.5 * widthOf(w.text, size, false), 0.35 * size, size, w.pen == Pen::marked, w.pen);
            cairo_restore(c_);
        }
        y_ = low + 4;
    }
    void table(const ReportTable& t) {
        constexpr double kSize = 8.5;
        const double all = kPageWidth - 2 * kMargin;
        const auto row = [&](const std::vector<std::string>& cells, Pen pen) {
            std::vector<std::vector<std::string>> lines;
            size_t most = 1;
            for (size_t i = 0; i < cells.size(); ++i) {
                lines.push_back(wrapped(cells[i], kSize, false, t.shares[i] * all - 6));
                most = std::max(most, lines.back().size());
            }
            room(static_cast<double>(most) * 1.3 * kSize + 3);
            double x = kMargin;
            for (size_t i = 0; i < lines.size(); ++i) {
                for (size_t k = 0; k < lines[i].size(); ++k)
                    put(lines[i][k], x, y_ + (static_cast<double>(k) + 1) * 1.3 * kSize - 1, kSize, false,
                        pen);
                x += t.shares[i] * all;
            }
            y_ += static_cast<double>(most) * 1.3 * kSize + 3;
        };
        row(t.heads, Pen::thin);
        for (const auto& cells : t.rows) row(cells, Pen::outline);
    }
    /// Keeps a heading with what follows it.
    void together(double height) { room(height); }

  private:
    void room(double height) {
        if (y_ + height <= kPageHeight - kMargin || y_ <= kMargin) return;
        cairo_show_page(c_);
        y_ = kMargin;
    }
    void font(double size, bool bold) {
        cairo_select_font_face(c_, "sans-serif", CAIRO_FONT_SLANT_NORMAL,
                               bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
        cairo_set_font_size(c_, size);
    }
    double widthOf(const std::string& s, double size, bool bold) {
        font(size, bold);
        cairo_text_extents_t e;
        cairo_text_extents(c_, s.c_str(), &e);
        return e.x_advance;
    }
    void put(const std::string& s, double x, double y, double size, bool bold, Pen pen) {
        const Ink ink = inkOf(pen);
        cairo_set_source_rgb(c_, ink.red, ink.green, ink.blue);
        font(size, bold);
        cairo_move_to(c_, x, y);
        cairo_show_text(c_, s.c_str());
    }
    std::vector<std::string> wrapped(const std::string& s, double size, bool bold, double width) {
        std::vector<std::string> lines;
        std::string line, word;
        for (std::istringstream words(s); words >> word;) {
            const std::string longer = line.empty() ? word : fmt::format("{} {}", line, word);
            if (!line.empty() && widthOf(longer, size, bold) > width)
                lines.push_back(std::exchange(line, word));
            else
                line = longer;
        }
        lines.push_back(line);
        return lines;
    }

    cairo_t* c_;
    double y_ = kMargin;
};

cairo_status_t append(void* to, const unsigned char* data, unsigned length) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(data), length);
    return CAIRO_STATUS_SUCCESS;
}

} // namespace

Result<std::string> pdfOf(const Report& r) {
    std::string out;
    const std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)> surface(
        cairo_pdf_surface_create_for_stream(append, &out, kPageWidth, kPageHeight), cairo_surface_destroy);
    const std::unique_ptr<cairo_t, void (*)(cairo_t*)> c(cairo_create(surface.get()), cairo_destroy);
    Pages pages(c.get());
    pages.text(r.title, 16, true, 0);
    pages.text(r.verdict, 10, true, 4);
    for (const ReportPart& p : r.parts) {
        pages.together(60);
        pages.text(p.heading, 11, true, 8);
        pages.rule();
        for (const std::string& text : p.paragraphs) pages.text(text, 9, false, 1);
        if (p.picture) pages.picture(*p.picture);
        if (!p.table.rows.empty()) pages.table(p.table);
    }
    cairo_show_page(c.get());
    cairo_surface_finish(surface.get());
    if (const cairo_status_t s = cairo_status(c.get()); s != CAIRO_STATUS_SUCCESS)
        return failure(ErrorCode::impossible,
                       std::string("the report could not be written: ") + cairo_status_to_string(s));
    return out;
}

} // namespace prism
