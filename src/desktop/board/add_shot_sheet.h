// A new shot: from which ready move, or as a copy of the one in hand.
#pragma once
#include <QDialog>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

class QLabel;
class QListWidget;
class QPushButton;

namespace cinnabar {

class AddShotSheet : public QDialog {
  Q_OBJECT
 public:
  AddShotSheet(Session* session, Foresight* foresight, QWidget* parent);
  ~AddShotSheet() override;

 private:
  void make();
  void cameBack(const Document& before, const Expected<MoveMade>& made);
  Session* session_;
  Foresight* foresight_;
  QListWidget* list_;
  QLabel* note_;
  QPushButton* make_;
  int move_ = 0;  ///< the one being made; 0: none
};

/// Keeps a move that was made, chooses its shot, and says how its levels stand; says so where the project changed
/// meanwhile. Whether it was kept.
bool keepMove(Session& session, const Document& before, const MoveMade& made);

}  // namespace cinnabar
