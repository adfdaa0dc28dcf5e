#pragma once
#include "app/places/place.h"

class QLineEdit;

namespace prism::app {

/// What is known of one finding, and what can be done about it: a button for each repair, which shows what it
/// would change when it is pointed at.
class FindingPanel final : public QFrame {
    Q_OBJECT
  public:
    FindingPanel(Desk desk, QWidget* parent);
    /// Null for none.
    void show(const Finding* f);

  protected:
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    QPushButton* button(const QString& name, const QString& text, const QString& tip);
    void preview(const Remedy& r);
    void clearButtons();

    Desk desk_;
    std::optional<Finding> finding_;
    QLabel *message_, *reason_;
    QVBoxLayout* buttons_;
    QLineEdit* note_ = nullptr;
    std::vector<std::pair<QObject*, size_t>> previews_; ///< buttons, with the remedy of each
};

} // namespace prism::app
