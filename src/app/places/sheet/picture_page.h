#pragma once
#include "app/places/sheet/trace_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QSlider>

namespace prism::app {

/// A scan on the sheet: laid straight, sized by known lengths, cut into views, and its lines found.
class PicturePage final : public Page {
    Q_OBJECT
  public:
    PicturePage(Desk desk, QWidget* parent);
    void refresh() override;
    QString label() const override;
    void enter() override;
    void leave() override;

  private:
    enum class Tool { none, level, upright, length, cut };
    QWidget* makeLie();
    QWidget* makeLengths();
    QWidget* makeCuts();
    void start(Tool t);
    void picked(Vec2 at);
    void addLength();
    void addCut(const Box2& box);
    void change(const QString& label, std::function<void(PictureChoices&)> edit);
    const PictureChoices& chosen() const { return desk_.session.choices().reading.picture; }
    /// The scan's pixel under a place of the sheet.
    std::optional<Vec2> pixelAt(Vec2 sheet) const;
    void showLengths();
    void showWhole(bool on);

    Tool tool_ = Tool::none;
    bool here_ = false;
    std::vector<Vec2> picks_;    ///< scan coordinates
    std::vector<Picture> whole_; ///< while a view is cut out: the uncut scan
    Vec2 first_;                 ///< the first pick on the sheet
    QLabel *lie_, *told_;
    QPushButton *as_measured_, *as_scanned_, *level_, *upright_, *two_places_, *add_length_, *no_length_,
        *cut_, *no_cut_;
    QCheckBox *light_, *stretch_;
    QSlider* strength_;
    QLineEdit* length_;
    QComboBox* cut_name_;
    RowTable *lengths_, *cuts_;
    TracePanel* trace_;
};

} // namespace prism::app
