// In hand: the numbers of what is selected on the floor.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/workers/foresight.h"

namespace cinnabar {

class NumberGrid;

class InHand : public QWidget {
  Q_OBJECT
 public:
  InHand(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  QSize sizeHint() const override { return {456, 140}; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  void refresh();
  Session* session_;
  Foresight* foresight_;
  Hand hand_;
  NumberGrid* numbers_;
};

}  // namespace cinnabar
