// The kept versions of a project: keep one, see what has changed since, go back.
#pragma once
#include <QDialog>

#include "cinnabar/desktop/edits/session.h"

class QLineEdit;
class QListWidget;
class QPlainTextEdit;
class QPushButton;

namespace cinnabar {

class VersionsDialog : public QDialog {
  Q_OBJECT
 public:
  explicit VersionsDialog(Session* session, QWidget* parent = nullptr);

 private:
  void show(int row);
  void keep();
  void goBack();

  Session* session_;
  QLineEdit* name_;
  QListWidget* list_;
  QPlainTextEdit* differences_;
  QPushButton *keep_, *back_;
  std::shared_ptr<const Document> shown_;
  QString shownName_;
};

}  // namespace cinnabar
