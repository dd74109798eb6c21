// What both the project and a table changed: each value chosen by itself.
#pragma once
#include <QDialog>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/formats/shot_list.h"

class QTableWidget;

namespace cinnabar {

class ConflictsSheet : public QDialog {
  Q_OBJECT
 public:
  ConflictsSheet(Session* session, std::vector<ShotConflict> conflicts, QWidget* parent = nullptr);

 private:
  void take();
  Session* session_;
  std::vector<ShotConflict> conflicts_;
  QTableWidget* table_;
};

}  // namespace cinnabar
