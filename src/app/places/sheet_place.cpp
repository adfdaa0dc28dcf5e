#include "app/places/sheet_place.h"

#include "app/places/sheet/layers_page.h"
#include "app/places/sheet/left_out_page.h"
#include "app/places/sheet/mark_page.h"
#include "app/places/sheet/picture_page.h"
#include "app/places/sheet/preset_bar.h"
#include "app/places/sheet/repairs_page.h"
#include "app/places/sheet/unit_page.h"

#include "app/sheet/sheet_canvas.h"

#include <QButtonGroup>

namespace prism::app {

SheetPlace::SheetPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    presets_ = new PresetBar(desk, this);
    actions()->addWidget(presets_);
    auto* dark = action("darkPaper", tr("Dark paper"), tr("Show the sheet in light lines on dark paper"));
    dark->setCheckable(true);
    connect(dark, &QPushButton::toggled, &desk.sheet, &SheetCanvas::setDarkPaper);
    pages_ = {new LayersPage(desk, this), new RepairsPage(desk, this), new LeftOutPage(desk, this),
              new UnitPage(desk, this),   new MarkPage(desk, this),    new PicturePage(desk, this)};
    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    auto* names = new QVBoxLayout;
    names->setSpacing(4);
    stack_ = new QStackedWidget(this);
    auto* group = new QButtonGroup(this);
    const char* const buttonNames[] = {"layersPage", "repairsPage", "leftOutPage",
                                       "unitPage",   "markPage",    "picturePage"};
    for (size_t i = 0; i < pages_.size(); ++i) {
        auto* b = new QPushButton(pages_[i]->label(), this);
        b->setObjectName(buttonNames[i]);
        b->setCheckable(true);
        b->setMinimumWidth(112);
        b->setStyleSheet("text-align: left;");
        group->addButton(b, static_cast<int>(i));
        names->addWidget(b);
        buttons_.push_back(b);
        stack_->addWidget(pages_[i]);
    }
    buttons_[0]->setChecked(true);
    names->addStretch(1);
    row->addLayout(names);
    row->addWidget(stack_, 1);
    body()->addLayout(row, 1);
    connect(group, &QButtonGroup::idClicked, this, &SheetPlace::showPage);
    setLead(tr("Open a drawing to begin"));
    buttons_[kPicture]->hide();
    connect(&desk.session, &Session::opened, this, [this] { just_opened_ = true; });
}

void SheetPlace::showPage(int page) {
    pages_[stack_->currentIndex()]->leave();
    stack_->setCurrentIndex(page);
    buttons_[page]->setChecked(true);
    pages_[page]->enter();
}

void SheetPlace::refresh() {
    const Model& m = model();
    for (size_t i = 0; i < pages_.size(); ++i) {
        pages_[i]->refresh();
        buttons_[i]->setText(pages_[i]->label());
    }
    presets_->refresh();
    const bool scan = !m.drawing->pictures.empty();
    buttons_[kPicture]->setVisible(scan);
    if (!scan && stack_->currentIndex() == kPicture) showPage(0);
    if (std::exchange(just_opened_, false) && scan && m.drawing->entities.empty()) showPage(kPicture);
    int off = 0, lost = 0;
    for (bool on : m.sheet.layer_on) off += !on;
    for (const NotRead& n : m.drawing->not_read) lost += n.count;
    QString lead =
        tr("%1 read").arg(counted(static_cast<int>(m.drawing->entities.size()), tr("line"), tr("lines")));
    lead += lost ? tr(", %1 not read").arg(lost) : tr("; everything was read");
    if (!m.sheet.loose_ends.empty())
        lead += tr(". %1").arg(
            counted(static_cast<int>(m.sheet.loose_ends.size()), tr("loose end"), tr("loose ends")));
    if (off) lead += tr(". %1 off").arg(counted(off, tr("layer is"), tr("layers are")));
    if (scan && m.drawing->entities.empty())
        lead = tr("A scan: lay it straight, give it its size, then find its lines or draw over it");
    setLead(lead);
}

PlaceState SheetPlace::state() const {
    if (!ready()) return {theme::Glyph::idle, tr("nothing open")};
    const bool lost = !model().drawing->not_read.empty();
    if (const auto n = model().sheet.loose_ends.size(); n > 0)
        return {theme::Glyph::warning, counted(static_cast<int>(n), tr("loose end"), tr("loose ends"))};
    return {lost ? theme::Glyph::warning : theme::Glyph::good,
            tr("%1 lines").arg(model().drawing->entities.size())};
}

} // namespace prism::app
