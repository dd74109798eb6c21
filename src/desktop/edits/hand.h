// What is in hand: the numbers of the selected thing, each with the edit that typing it makes.
#pragma once
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {

struct HandField {
  NumberField::Spec spec;
  std::function<Session::Values(double)> set;  ///< empty where the number cannot be
  std::function<QString(double)> title;
};
/// What a grid of them shows.
[[nodiscard]] inline std::vector<NumberField::Spec> specsOf(const std::vector<HandField>& fields) {
  std::vector<NumberField::Spec> specs;
  for (const HandField& field : fields) specs.push_back(field.spec);
  return specs;
}
struct Hand {
  QString name;
  std::vector<HandField> fields;
};

/// `lux` is the reading at the product and `shares` each light's share of it, for the read-only numbers.
[[nodiscard]] Hand handOf(const Session& session, double lux, const std::vector<double>& shares);

[[nodiscard]] QString nameOf(const Session& session, const Selection& selection);
/// What a line of the staged world met; empty where the set-up or the shot has it no more.
[[nodiscard]] QString nameOfMet(const Session& session, Role role, int thing);

}  // namespace cinnabar
