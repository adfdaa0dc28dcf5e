#pragma once
#include "core/checking/open_sizes.h"
#include "core/diagnosing/diagnose.h"

// What was found, decided, proved and measured on a sheet, to be read by people who do not have the program.
namespace prism {

/// How a stroke of a picture is drawn.
enum class Pen { outline, hidden, thin, marked };

/// Lines and words on paper, mm from the lower left corner.
struct ReportPicture {
    struct Stroke {
        std::vector<Vec2> points;
        Pen pen = Pen::outline;
    };
    struct Word {
        Vec2 middle;
        double height = 2, rotation = 0; ///< mm; radians
        std::string text;
        Pen pen = Pen::thin;
    };
    Vec2 size;
    std::vector<Stroke> strokes;
    std::vector<Word> words;
};

struct ReportTable {
    std::vector<double> shares; ///< of the width, by column
    std::vector<std::string> heads;
    std::vector<std::vector<std::string>> rows;
};

/// One part of a report after another, each with a heading; what is empty is left out.
struct ReportPart {
    std::string heading;
    std::vector<std::string> paragraphs;
    std::optional<ReportPicture> picture;
    ReportTable table;
};

struct Report {
    std::string title, verdict;
    bool sound = false; ///< nothing is wrong with the sheet
    std::vector<ReportPart> parts;
};

/// `source`: name of the drawing. A sound sheet's report is one page.
Report reportOf(const std::string& source, const Model& m, const Diagnosis& found, const Completeness& sizes);

/// The reports of several parts of a sheet as one.
Report joined(std::vector<Report> parts);

/// A page of its own, without anything outside it; UTF-8.
std::string htmlOf(const Report& r);
/// PDF, A4. Impossible where the library fails.
Result<std::string> pdfOf(const Report& r);

/// Writes a report; the ending of the path says the form: .html or .pdf. Usage error for any other.
Result<void> writeReport(const std::string& path, const Report& r);

/// The sheet as it is shown, its findings numbered where they are, so wide, mm.
ReportPicture sheetPicture(const Model& m, const std::vector<Finding>& findings, double width,
                           double most_height);
/// The solid as it is, isometric; none where there is none, or the modeller cannot draw it.
std::optional<ReportPicture> solidPicture(const Model& m, double width, double most_height);

} // namespace prism
