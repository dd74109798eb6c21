// The numbers that a wish or a move is asked with, as a row of fields.
#pragma once
#include <QWidget>
#include <map>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/forecast/asked.h"

namespace cinnabar {

class NumberGrid;

class AskedNumbers : public QWidget {
  Q_OBJECT
 public:
  AskedNumbers(Session* session, QWidget* parent);
  /// Those of another kind; what was typed is let go.
  void ask(const std::vector<AskedNumber>& numbers);
  /// As if it had been typed.
  void set(const std::string& key, double value);
  /// What was typed, and what is usual of the rest; left out is what the shot decides.
  [[nodiscard]] std::map<std::string, double> values() const;

 signals:
  void changed();

 private:
  void refresh();

  Session* session_;
  NumberGrid* fields_;
  std::vector<AskedNumber> numbers_;
  std::map<std::string, double> typed_;
};

}  // namespace cinnabar
