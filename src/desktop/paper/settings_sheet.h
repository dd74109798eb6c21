// What to dial in for a shot, in letters that are read at arm's length on a dark set.
#pragma once
#include <QDialog>

#include "cinnabar/desktop/edits/session.h"

class QGridLayout;
class QScrollArea;

namespace cinnabar {

class PlainLabel;
class WordButton;

class SettingsSheet : public QDialog {
  Q_OBJECT
 public:
  SettingsSheet(Session* session, QWidget* parent);

 protected:
  void keyPressEvent(QKeyEvent*) override;

 private:
  /// The shot so many further on, as far as there are any.
  void go(int by);
  void tell();

  Session* session_;
  PlainLabel* title_;
  WordButton *before_, *after_;
  QScrollArea* rows_;
};

}  // namespace cinnabar
