// A drafted shot: its predicted picture, part and length, how its levels stand, another, leave out.
#pragma once
#include <QImage>
#include <QWidget>

#include "cinnabar/forecast/drafts/draft.h"

namespace cinnabar {

class WordButton;

class DraftCard : public QWidget {
  Q_OBJECT
 public:
  DraftCard(std::size_t index, QWidget* parent);
  /// Nothing there yet: the part it is to be.
  void waitFor(const QString& what);
  void show(const DraftShot& drafted, const Shot& shot);
  void setPicture(const QImage& picture);
  /// What its neighbour showed: the card before it was left out.
  void takePicture(const DraftCard& other);
  void setBusy(bool busy);
  [[nodiscard]] QString shotId() const { return id_; }
  [[nodiscard]] bool hasPicture() const { return !picture_.isNull(); }
  QSize sizeHint() const override { return {152, 184}; }

 signals:
  void anotherWanted(std::size_t index);
  void leaveOutWanted(std::size_t index);

 protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override;

 private:
  [[nodiscard]] QRectF frame() const;
  std::size_t index_;
  QString id_, name_, what_, waiting_;
  QString levels_;
  Tally tally_;
  QImage picture_;
  bool busy_ = false;
  WordButton *another_, *leave_;
};

}  // namespace cinnabar
