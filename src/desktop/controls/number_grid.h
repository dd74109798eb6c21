// Numbers in rows: as many fields as there are numbers.
#pragma once
#include <vector>

#include "cinnabar/desktop/controls/controls.h"

class QGridLayout;

namespace cinnabar {

class NumberGrid : public QWidget {
  Q_OBJECT
 public:
  struct Looks {
    int across = 4;            ///< fields in a row
    int apart = 10, rows = 6;  ///< between columns, between rows
    int narrowest = 0;         ///< of a field
  };
  /// The first `usual` fields are made at once, so that Tab walks them where the grid stands.
  NumberGrid(const Looks& looks, std::size_t usual, QWidget* parent = nullptr);
  void setNumbers(const std::vector<NumberField::Spec>& specs);
  void setAcross(int across);

 signals:
  void previewed(std::size_t at, double value);
  void entered(std::size_t at, double value);
  void refused(const QString& text);

 private:
  void add();
  void place(std::size_t at);

  Looks looks_;
  QGridLayout* grid_;
  std::vector<NumberField*> fields_;
};

}  // namespace cinnabar
