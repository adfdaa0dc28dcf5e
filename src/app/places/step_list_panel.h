#pragma once
#include "app/places/place.h"
#include "core/building/step_list.h"

#include <QMenu>

namespace prism::app {

/// The build list: its steps in their groups, and what is done with them as a whole.
class StepListPanel final : public QWidget {
    Q_OBJECT
  public:
    StepListPanel(Session& session, QWidget* parent);
    void refresh();
    /// The step chosen; -1 for none.
    int current() const;
    /// An edit of the step that stands at this place now, wherever it is by the time its turn comes.
    void changeStep(int step, const QString& label, std::function<void(Choices&, int)> edit);

  signals:
    void editAsked(int step);
    void removed(int step);

  private:
    /// What a row of the table shows: a step, or the head of those from `step` to before `end`.
    struct Row {
        int step, end;
        bool head() const { return end > step; }
    };
    const std::vector<Step>& steps() const { return session_.choices().steps; }
    const Row* rowAt(int row) const;
    bool folded(const std::string& group) const { return folded_.contains(group); }
    std::vector<Cell> headCells(const Row& r) const;
    std::vector<Cell> stepCells(int step, bool grouped) const;
    void enableTools();
    void edited(int row, int column, const QString& text);
    void ticked(int row, bool on);
    void dropped(int row, int before);
    void move(int by);
    void rename(int step, const QString& name);
    void setGroup(const QString& group);
    void fillGroups();

    Session& session_;
    RowTable* table_;
    QPushButton *edit_, *up_, *down_, *stop_, *group_, *remove_;
    QMenu* groups_;
    std::vector<Row> rows_;
    std::set<std::string> folded_; ///< groups of which only the head shows
};

} // namespace prism::app
