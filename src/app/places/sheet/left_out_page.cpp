#include "app/places/sheet/left_out_page.h"
#include "core/drawing/kind_words.h"

namespace prism::app {
namespace {

/// What a group outside of all views is taken for, in words.
QString meaning(const std::string& what) {
    if (what == "border") return LeftOutPage::tr("Frame and its ticks");
    if (what == "title_block") return LeftOutPage::tr("Ruled fields with texts");
    if (what == "symbol") return LeftOutPage::tr("The sign of the projection angle");
    if (what == "note") return LeftOutPage::tr("Lines of notes and dimensions");
    return LeftOutPage::tr("Not taken for a view; move lines to one in Views");
}

} // namespace

LeftOutPage::LeftOutPage(Desk desk, QWidget* parent) : Page(desk, parent) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    table_ = new RowTable("leftOutTable", {tr("Set aside or not read"), tr("Count"), tr("Why")},
                          {240, 60, 500}, this);
    table_->setEmptyText(tr("Everything in the file is used."));
    all->addWidget(table_);
    connect(table_, &RowTable::rowPointed, this, [this](int row) {
        Marked m;
        if (row >= 0 && ready()) m.entities.insert(entities_[row].begin(), entities_[row].end());
        desk_.session.setPointed(std::move(m));
    });
}

void LeftOutPage::refresh() {
    const Model& m = model();
    std::vector<std::vector<Cell>> rows;
    entities_.clear();
    auto add = [&](Cell what, int n, const QString& why, std::vector<int> entities) {
        rows.push_back({std::move(what), Cell::number(QString::number(n)), Cell::of(why)});
        entities_.push_back(std::move(entities));
    };
    for (const NotRead& n : m.drawing->not_read) {
        Cell what = Cell::state(theme::Glyph::warning, sentence(inWords(n.type)));
        what.tip = tr("%1 in the file").arg(QString::fromStdString(n.type));
        add(what, n.count, sentence(n.reason), {});
    }
    for (const std::string& undone : m.sheet.left_undone) {
        rows.push_back({Cell::state(theme::Glyph::warning, tr("Not looked for")), Cell::number("–"),
                        Cell::of(sentence(undone))});
        entities_.emplace_back();
    }
    for (const LeftOut& l : m.views.left_out)
        add(Cell::of(sentence(l.what).replace('_', ' ')), static_cast<int>(l.entities.size()),
            meaning(l.what), l.entities);
    std::vector<int> hatch, off;
    for (const Entity& e : m.drawing->entities) {
        if (!m.sheet.layer_on[e.layer])
            off.push_back(e.id);
        else if (m.sheet.entity_roles[e.id] == LineRole::hatch)
            hatch.push_back(e.id);
    }
    if (!hatch.empty())
        add(Cell::of(tr("Hatching")), static_cast<int>(hatch.size()),
            tr("Shows cut material; not an edge of the part"), hatch);
    if (!off.empty())
        add(Cell::of(tr("Lines on layers that are off")), static_cast<int>(off.size()),
            tr("Switch the layers on in Layers"), off);
    table_->setRows(std::move(rows));
}

QString LeftOutPage::label() const {
    if (!ready()) return tr("Left out");
    return tr("Left out  %1").arg(model().drawing->not_read.size() + model().views.left_out.size());
}

} // namespace prism::app
