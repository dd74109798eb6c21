// A shot list pasted in as plain words: what would come of it is shown as it is typed, line by line.
#pragma once
#include <QDialog>

#include "cinnabar/desktop/edits/session.h"

class QLabel;
class QPlainTextEdit;
class QPushButton;

namespace cinnabar {

class PasteSheet : public QDialog {
  Q_OBJECT
 public:
  explicit PasteSheet(Session* session, QWidget* parent = nullptr);

 private:
  void refresh();
  void add();
  Session* session_;
  QPlainTextEdit *words_, *faults_;
  QLabel* count_;
  QPushButton* add_;
};

}  // namespace cinnabar
