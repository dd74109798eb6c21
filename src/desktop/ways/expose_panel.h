// The bench Expose: the purse of stops, and the settings that a search finds.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/ways/purse_view.h"
#include "cinnabar/desktop/ways/way_cards.h"

namespace cinnabar {

class WordButton;

class ExposePanel : public QWidget {
  Q_OBJECT
 public:
  ExposePanel(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  [[nodiscard]] WayCards* cards() const { return cards_; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  void showCards(bool cards);

  Session* session_;
  PurseView* purse_;
  WayCards* cards_;
  WordButton *back_, *find_;
};

}  // namespace cinnabar
