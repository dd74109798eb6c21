// A shot list pasted in as plain words: what would come of it is shown as it is typed, line by line.
#pragma once
#include <QDialog>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/formats/shot_list.h"

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
  void tell(const Expected<ShotsRead>& read);
  void add();
  Session* session_;
  QPlainTextEdit *words_, *faults_;
  QLabel* count_;
  QPushButton* add_;
  Edit edit_;  ///< of what stands in the sheet, once it was read
  int asked_ = 0;
  Newest reader_;  ///< a long list is read beside the window, the newest text first
};

}  // namespace cinnabar
