// A wish: what is wanted to be seen, and the ways to it.
#pragma once
#include <QWidget>
#include <array>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/ways/asked_numbers.h"
#include "cinnabar/desktop/ways/way_cards.h"
#include "cinnabar/forecast/wishes/wishes.h"
#include "cinnabar/render/overlays.h"

class QComboBox;

namespace cinnabar {

/// One wish on a line: its kind, its numbers, its side or its place.
class WishLine : public QWidget {
  Q_OBJECT
 public:
  WishLine(int number, Session* session, QWidget* parent);
  void setKind(int kind);
  [[nodiscard]] const WishKind& kind() const;
  /// A place of the picture, for wishes that want one; false where this one wants none.
  bool takePlace(const PlaceMet& met);
  /// Nothing while its place is missing.
  [[nodiscard]] std::optional<Wish> wish() const;

 signals:
  void leaveOutWanted();
  void changed();

 private:
  void refresh();

  Session* session_;
  QComboBox *kind_, *from_;
  AskedNumbers* numbers_;
  PlainLabel* place_;
  WordButton* leave_;
  std::optional<Vec3> at_;
};

class WishPanel : public QWidget {
  Q_OBJECT
 public:
  WishPanel(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  [[nodiscard]] WayCards* cards() const { return cards_; }
  /// A place of the picture was read while this panel is open.
  void takePlace(const PlaceMet& met);
  /// Places of the first product, its own metres, at which nothing is to be mirrored.
  [[nodiscard]] std::vector<Vec3> unmirrored() const;

 signals:
  void unmirroredChanged();

 protected:
  void paintEvent(QPaintEvent*) override;
  void showEvent(QShowEvent*) override;

 private:
  static constexpr std::size_t most = 3;
  void setCount(std::size_t count);
  void find();

  Session* session_;
  std::array<WishLine*, most> lines_{};
  std::size_t count_ = 1, current_ = 0;
  WordButton *also_, *find_;
  QWidget* left_;
  WayCards* cards_;
};

}  // namespace cinnabar
