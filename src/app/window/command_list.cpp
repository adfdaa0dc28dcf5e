#include "app/window/command_list.h"

#include <QKeyEvent>
#include <QVBoxLayout>

namespace prism::app {

CommandList::CommandList(std::vector<Command> commands, QWidget* parent)
    : QDialog(parent), commands_(std::move(commands)) {
    setObjectName("commandList");
    setWindowTitle(tr("Find a command"));
    resize(460, 380);
    auto* all = new QVBoxLayout(this);
    search_ = new QLineEdit(this);
    search_->setObjectName("commandSearch");
    search_->setPlaceholderText(tr("Type a few letters of what you want to do"));
    list_ = new QListWidget(this);
    list_->setFocusPolicy(Qt::NoFocus);
    all->addWidget(search_);
    all->addWidget(list_, 1);
    search_->installEventFilter(this);
    connect(search_, &QLineEdit::textChanged, this, &CommandList::filter);
    connect(search_, &QLineEdit::returnPressed, this, &CommandList::runCurrent);
    connect(list_, &QListWidget::itemClicked, this, &CommandList::runCurrent);
    filter({});
}

void CommandList::filter(const QString& text) {
    list_->clear();
    const QStringList words = text.split(' ', Qt::SkipEmptyParts);
    for (size_t i = 0; i < commands_.size(); ++i) {
        const Command& c = commands_[i];
        const QString line = c.place.isEmpty() ? c.words : c.place + ":  " + c.words;
        const bool fits = std::all_of(words.begin(), words.end(), [&](const QString& w) {
            return line.contains(w, Qt::CaseInsensitive);
        });
        if (!fits) continue;
        auto* item = new QListWidgetItem(c.keys.isEmpty() ? line : line + "    " + c.keys, list_);
        item->setData(Qt::UserRole, static_cast<int>(i));
        if (c.possible && !c.possible()) item->setFlags(Qt::NoItemFlags);
    }
    for (int i = 0; i < list_->count(); ++i)
        if (list_->item(i)->flags() & Qt::ItemIsEnabled) {
            list_->setCurrentRow(i);
            break;
        }
}

bool CommandList::eventFilter(QObject* o, QEvent* e) {
    if (o == search_ && e->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(e)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up) {
            const int step = key == Qt::Key_Down ? 1 : -1;
            for (int i = list_->currentRow() + step; i >= 0 && i < list_->count(); i += step)
                if (list_->item(i)->flags() & Qt::ItemIsEnabled) return list_->setCurrentRow(i), true;
            return true;
        }
    }
    return QDialog::eventFilter(o, e);
}

void CommandList::runCurrent() {
    const QListWidgetItem* item = list_->currentItem();
    if (!item || !(item->flags() & Qt::ItemIsEnabled)) return;
    const auto run = commands_[static_cast<size_t>(item->data(Qt::UserRole).toInt())].run;
    accept();
    run();
}

} // namespace prism::app
