#pragma once
#include "app/places/sheet/mark_tool.h"
#include "app/places/sheet/page.h"

#include <QComboBox>
#include <QLineEdit>

namespace prism::app {

/// Mark up the sheet and measure it.
class MarkPage final : public Page {
    Q_OBJECT
  public:
    MarkPage(Desk desk, QWidget* parent);
    void refresh() override;
    QString label() const override;
    void enter() override;
    void leave() override;

  private:
    QPushButton* toolButton(const char* name, const QString& text, const QString& tip, MarkTool::Kind k);
    void start(MarkTool::Kind k);
    void follow();
    void showMeasure();
    void choose(const QString& how);

    MarkTool tool_;
    std::map<MarkTool::Kind, QPushButton*> buttons_;
    QComboBox *role_, *choose_;
    QLineEdit *says_, *offset_;
    QLabel* measure_;
    RowTable* marks_;
    bool here_ = false;
};

} // namespace prism::app
