// The cameras' modes against what the shots want: a row a mode, a column a shot; a cell chosen is recorded in.
#pragma once
#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/planning/modes.h"

namespace cinnabar {

class WordButton;

class ModesPanel : public Painted {
  Q_OBJECT
 public:
  ModesPanel(Session* session, QWidget* parent);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  /// Where a shot's cell of a row stands.
  [[nodiscard]] QRectF cellBox(std::size_t row, std::size_t shot) const;
  [[nodiscard]] const ModeTable& table() const { return table_; }

 protected:
  void paintEvent(QPaintEvent*) override;
  void showEvent(QShowEvent*) override { lookAtShot(); }
  void resizeEvent(QResizeEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  void refresh();
  void lookAtShot();
  void choose(std::size_t row, std::size_t shot);
  void take(std::size_t row, std::size_t shot);
  void takeBest();
  [[nodiscard]] Session::Values recorded(std::size_t row, std::size_t shot) const;
  [[nodiscard]] QString cellWords(std::size_t row, std::size_t shot) const;
  [[nodiscard]] std::size_t rowsShown() const;
  [[nodiscard]] std::size_t shotsShown() const;

  Session* session_;
  ModeTable table_;
  WordButton* best_;
  std::size_t row_ = 0, shot_ = 0;              ///< the cell in hand
  std::size_t first_row_ = 0, first_shot_ = 0;  ///< scrolled to
};

}  // namespace cinnabar
