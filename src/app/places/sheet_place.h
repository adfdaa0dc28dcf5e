#pragma once
#include "app/places/sheet/page.h"

#include <QStackedWidget>

namespace prism::app {

class PresetBar;

/// Layers, repairs, what is left out, and the unit: a page for each, and the reading presets above.
class SheetPlace final : public Place {
    Q_OBJECT
  public:
    SheetPlace(Desk desk, QWidget* parent);
    PlaceState state() const override;
    void showPage(int page);
    static constexpr int kPicture = 5; ///< page shown only for sheets with a scan
    void enter() override { pages_[stack_->currentIndex()]->enter(); }
    void leave() override { pages_[stack_->currentIndex()]->leave(); }

  protected:
    void refresh() override;

  private:
    std::vector<Page*> pages_;
    std::vector<QPushButton*> buttons_;
    QStackedWidget* stack_;
    PresetBar* presets_;
    bool just_opened_ = false;
};

} // namespace prism::app
