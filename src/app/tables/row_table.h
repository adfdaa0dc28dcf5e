#pragma once
#include "app/theme/theme.h"

#include <QAbstractTableModel>
#include <QTableView>

#include <optional>
#include <vector>

namespace prism::app {

struct Cell {
    QString text;
    theme::Glyph glyph = theme::Glyph::none;
    std::optional<Role> tag;     ///< shows the view's letter tag
    std::optional<bool> checked; ///< a tick box
    QStringList choices;         ///< editing offers these
    bool editable = false;
    bool right = false; ///< numbers align right
    QString tip;

    static Cell of(QString text) {
        Cell c;
        c.text = std::move(text);
        return c;
    }
    static Cell number(QString text) {
        Cell c = of(std::move(text));
        c.right = true;
        return c;
    }
    static Cell state(theme::Glyph g, QString word) {
        Cell c = of(std::move(word));
        c.glyph = g;
        return c;
    }
};

/// A table of prepared cells. Edits are only announced; the owner changes the document and sets new rows.
class RowModel : public QAbstractTableModel {
    Q_OBJECT
  public:
    RowModel(QStringList heads, QObject* parent);
    void setRows(std::vector<std::vector<Cell>> rows);
    const Cell& cell(int row, int column) const { return rows_[row][column]; }

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& i, int role) const override;
    QVariant headerData(int section, Qt::Orientation o, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& i) const override;
    bool setData(const QModelIndex& i, const QVariant& v, int role) override;

  signals:
    void edited(int row, int column, const QString& text);
    void ticked(int row, int column, bool on);

  private:
    QStringList heads_;
    std::vector<std::vector<Cell>> rows_;
};

/// A view on a RowModel in the house style: one row chosen at a time unless told otherwise, keeps the chosen
/// row and the scroll position when rows are set anew.
class RowTable : public QTableView {
    Q_OBJECT
  public:
    RowTable(const QString& name, QStringList heads, std::vector<int> widths, QWidget* parent = nullptr);
    void setRows(std::vector<std::vector<Cell>> rows);
    RowModel& rows() { return *model_; }
    int currentRow() const { return currentIndex().isValid() ? currentIndex().row() : -1; }
    void chooseRow(int row);
    /// The column that takes the width left over; the last one unless said otherwise.
    void setStretch(int column);
    /// Shown in place of rows when there are none.
    void setEmptyText(const QString& text) { empty_text_ = text; }
    /// Long texts go on in a second line.
    void setWraps();
    /// Rows can be dragged to another place: rowDropped() asks for it.
    void setReorderable(bool on) { reorderable_ = on; }
    /// Return activates a row even where a cell can be edited; F2 edits it.
    void setReturnActivates(bool on) { return_activates_ = on; }
    QSize sizeHint() const override { return {320, 150}; }

  signals:
    void rowChosen(int row);
    void rowPointed(int row); ///< -1 when left
    void rowActivated(int row);
    void rowDropped(int row, int before); ///< `before`: a row, or their number for the end

  protected:
    void keyPressEvent(QKeyEvent* e) override;
    void leaveEvent(QEvent*) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void paintEvent(QPaintEvent* e) override;

  private:
    RowModel* model_;
    QString empty_text_;
    /// Before which row something dropped here would come.
    int rowBefore(QPoint at) const;

    bool quiet_ = false, reorderable_ = false, return_activates_ = false;
    int pointed_ = -1;
    QPoint pressed_;
    int held_ = -1, drop_ = -1; ///< the row under the button; while dragging, before which row it would come
};

} // namespace prism::app
