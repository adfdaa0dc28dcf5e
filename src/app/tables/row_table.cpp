#include "app/tables/row_table.h"

#include <QApplication>
#include <QComboBox>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QScrollBar>
#include <QStyledItemDelegate>

namespace prism::app {
namespace {

/// Offers a list where the cell has choices; a line to type in otherwise.
class CellDelegate : public QStyledItemDelegate {
  public:
    using QStyledItemDelegate::QStyledItemDelegate;
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& o,
                          const QModelIndex& i) const override {
        const auto* m = static_cast<const RowModel*>(i.model());
        const Cell& c = m->cell(i.row(), i.column());
        if (c.choices.isEmpty()) return QStyledItemDelegate::createEditor(parent, o, i);
        auto* box = new QComboBox(parent);
        box->addItems(c.choices);
        connect(box, &QComboBox::activated, this, [this, box] {
            auto* self = const_cast<CellDelegate*>(this);
            emit self->commitData(box);
            emit self->closeEditor(box);
        });
        return box;
    }
    QSize sizeHint(const QStyleOptionViewItem& o, const QModelIndex& i) const override {
        return QStyledItemDelegate::sizeHint(o, i) + QSize(0, 6);
    }
    void setEditorData(QWidget* w, const QModelIndex& i) const override {
        if (auto* box = qobject_cast<QComboBox*>(w))
            box->setCurrentText(i.data(Qt::EditRole).toString());
        else
            QStyledItemDelegate::setEditorData(w, i);
    }
    void setModelData(QWidget* w, QAbstractItemModel* m, const QModelIndex& i) const override {
        if (auto* box = qobject_cast<QComboBox*>(w))
            m->setData(i, box->currentText(), Qt::EditRole);
        else
            QStyledItemDelegate::setModelData(w, m, i);
    }
};

} // namespace

RowModel::RowModel(QStringList heads, QObject* parent)
    : QAbstractTableModel(parent), heads_(std::move(heads)) {}

void RowModel::setRows(std::vector<std::vector<Cell>> rows) {
    beginResetModel();
    rows_ = std::move(rows);
    endResetModel();
}

int RowModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int RowModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(heads_.size());
}

QVariant RowModel::data(const QModelIndex& i, int role) const {
    if (!i.isValid()) return {};
    const Cell& c = rows_[i.row()][i.column()];
    switch (role) {
    case Qt::DisplayRole:
    case Qt::EditRole:
        return c.text;
    case Qt::DecorationRole:
        if (c.tag) return theme::tagIcon(*c.tag);
        if (c.glyph != theme::Glyph::none) return theme::icon(c.glyph);
        return {};
    case Qt::CheckStateRole:
        return c.checked ? QVariant(*c.checked ? Qt::Checked : Qt::Unchecked) : QVariant();
    case Qt::TextAlignmentRole:
        return QVariant((c.right ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    case Qt::ToolTipRole:
        return c.tip.isEmpty() ? c.text : c.tip;
    default:
        return {};
    }
}

QVariant RowModel::headerData(int section, Qt::Orientation o, int role) const {
    if (o != Qt::Horizontal) return {};
    if (role == Qt::DisplayRole) return heads_[section];
    if (role == Qt::TextAlignmentRole && !rows_.empty() && rows_[0][section].right)
        return QVariant(Qt::AlignRight | Qt::AlignVCenter);
    if (role == Qt::TextAlignmentRole) return QVariant(Qt::AlignLeft | Qt::AlignVCenter);
    return {};
}

Qt::ItemFlags RowModel::flags(const QModelIndex& i) const {
    Qt::ItemFlags f = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    if (!i.isValid()) return f;
    const Cell& c = rows_[i.row()][i.column()];
    if (c.editable) f |= Qt::ItemIsEditable;
    if (c.checked) f |= Qt::ItemIsUserCheckable;
    return f;
}

bool RowModel::setData(const QModelIndex& i, const QVariant& v, int role) {
    if (role == Qt::CheckStateRole) {
        emit ticked(i.row(), i.column(), v.toInt() == Qt::Checked);
        return true;
    }
    if (role != Qt::EditRole || v.toString() == rows_[i.row()][i.column()].text) return false;
    emit edited(i.row(), i.column(), v.toString());
    return true;
}

RowTable::RowTable(const QString& name, QStringList heads, std::vector<int> widths, QWidget* parent)
    : QTableView(parent), model_(new RowModel(std::move(heads), this)) {
    setObjectName(name);
    setModel(model_);
    setItemDelegate(new CellDelegate(this));
    setSelectionBehavior(SelectRows);
    setSelectionMode(SingleSelection);
    setAlternatingRowColors(true);
    setShowGrid(false);
    setWordWrap(false);
    setMouseTracking(true);
    setTabKeyNavigation(false);
    setIconSize({17, 17});
    setEditTriggers(DoubleClicked | EditKeyPressed | AnyKeyPressed);
    setHorizontalScrollMode(ScrollPerPixel);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(25);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setStretchLastSection(true);
    horizontalHeader()->setFixedHeight(26);
    for (size_t i = 0; i < widths.size(); ++i) setColumnWidth(static_cast<int>(i), widths[i]);
    connect(selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& i) {
        if (!quiet_) emit rowChosen(i.isValid() ? i.row() : -1);
    });
    connect(this, &QTableView::doubleClicked, this, [this](const QModelIndex& i) {
        if (!(model_->flags(i) & Qt::ItemIsEditable)) emit rowActivated(i.row());
    });
}

/// Return does what a double-click does, where there is nothing to edit.
void RowTable::keyPressEvent(QKeyEvent* e) {
    const QModelIndex i = currentIndex();
    const bool enter = e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter;
    const bool editable = !return_activates_ && (model_->flags(i) & Qt::ItemIsEditable);
    if (e->key() == Qt::Key_Escape && drop_ >= 0) {
        held_ = drop_ = -1;
        return viewport()->update();
    }
    if (enter && i.isValid() && state() != EditingState && !editable) return emit rowActivated(i.row());
    QTableView::keyPressEvent(e);
}

void RowTable::setRows(std::vector<std::vector<Cell>> rows) {
    const QModelIndex was = currentIndex();
    const int scroll = verticalScrollBar()->value();
    quiet_ = true;
    const int n = static_cast<int>(rows.size());
    model_->setRows(std::move(rows));
    if (was.isValid() && was.row() < n) setCurrentIndex(model_->index(was.row(), was.column()));
    verticalScrollBar()->setValue(scroll);
    quiet_ = false;
}

void RowTable::setStretch(int column) {
    horizontalHeader()->setStretchLastSection(false);
    horizontalHeader()->setSectionResizeMode(column, QHeaderView::Stretch);
}

void RowTable::setWraps() {
    setWordWrap(true);
    verticalHeader()->setMinimumSectionSize(25);
    verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
}

void RowTable::chooseRow(int row) {
    quiet_ = true;
    if (row < 0)
        clearSelection(), setCurrentIndex({});
    else if (row < model_->rowCount())
        setCurrentIndex(model_->index(row, std::max(0, currentIndex().column())));
    quiet_ = false;
}

void RowTable::mousePressEvent(QMouseEvent* e) {
    QTableView::mousePressEvent(e);
    pressed_ = e->position().toPoint();
    held_ = reorderable_ && e->button() == Qt::LeftButton ? rowAt(pressed_.y()) : -1;
}

int RowTable::rowBefore(QPoint at) const {
    const int row = rowAt(at.y());
    if (row < 0) return at.y() < 0 ? 0 : model_->rowCount();
    return at.y() - rowViewportPosition(row) > rowHeight(row) / 2 ? row + 1 : row;
}

void RowTable::mouseReleaseEvent(QMouseEvent* e) {
    QTableView::mouseReleaseEvent(e);
    const int row = std::exchange(held_, -1), before = std::exchange(drop_, -1);
    if (row < 0 || before < 0) return;
    unsetCursor();
    viewport()->update();
    emit rowDropped(row, before);
}

void RowTable::mouseMoveEvent(QMouseEvent* e) {
    if (held_ >= 0 && (e->buttons() & Qt::LeftButton)) {
        const QPoint at = e->position().toPoint();
        if (drop_ < 0 && (at - pressed_).manhattanLength() < QApplication::startDragDistance()) return;
        drop_ = rowBefore(at);
        setCursor(Qt::ClosedHandCursor);
        return viewport()->update();
    }
    QTableView::mouseMoveEvent(e);
    const QModelIndex i = indexAt(e->position().toPoint());
    const int row = i.isValid() ? i.row() : -1;
    if (row != std::exchange(pointed_, row)) emit rowPointed(row);
}

void RowTable::paintEvent(QPaintEvent* e) {
    QTableView::paintEvent(e);
    if (drop_ >= 0) { // where the row that is held would come
        QPainter p(viewport());
        const int last = model_->rowCount() - 1;
        const int y = drop_ > last ? rowViewportPosition(last) + rowHeight(last) : rowViewportPosition(drop_);
        p.fillRect(QRect(0, y - 1, viewport()->width(), 3), theme::point());
    }
    if (empty_text_.isEmpty() || model_->rowCount() > 0) return;
    QPainter p(viewport());
    p.setPen(theme::faint());
    p.drawText(viewport()->rect().adjusted(12, 10, -12, -10), Qt::AlignTop | Qt::AlignLeft | Qt::TextWordWrap,
               empty_text_);
}

void RowTable::leaveEvent(QEvent* e) {
    QTableView::leaveEvent(e);
    pointed_ = -1;
    emit rowPointed(-1);
}

} // namespace prism::app
