// Ways to light it: starting arrangements for what the product is made of, and lights to do without.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/ways/way_cards.h"

namespace cinnabar {

class LightWaysPanel : public QWidget {
  Q_OBJECT
 public:
  LightWaysPanel(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  [[nodiscard]] WayCards* cards() const { return cards_; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  [[nodiscard]] QString madeOf();
  Session* session_;
  std::shared_ptr<const Product> told_;  ///< of which is said what it is made of
  QString made_;
  WayCards* cards_;
  WordButton *arrange_, *fewer_;
};

}  // namespace cinnabar
