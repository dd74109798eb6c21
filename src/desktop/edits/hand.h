// What is in hand: the numbers of the selected thing, each with the edit that typing it makes.
#pragma once
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/session.h"

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

/// Things of the shot in the order that the floor walks through them.
[[nodiscard]] std::vector<Selection> selectables(const Session& session);
[[nodiscard]] QString nameOf(const Session& session, const Selection& selection);
/// JSON pointer of a selected thing; empty when there is none.
[[nodiscard]] std::string pointerOf(const Session& session, const Selection& selection);
/// Moves a thing to a place (its aim along with it where `withAim`), the camera's focus kept on what it was on.
/// Where a thing's place or aim is on a track, a new one is that track's key at the time cursor: the nearest key
/// within half a frame of it, or one more.
[[nodiscard]] Session::Values onTracks(const Session& session, const Selection& selection, Session::Values values);
[[nodiscard]] Session::Values moved(const Session& session, const Selection& selection, const Vec3& place,
                                    bool withAim);
[[nodiscard]] std::optional<std::pair<Vec3, Vec3>> placeAndAim(const Session& session, const Selection& selection);
[[nodiscard]] Json pointJson(const Vec3& v);

}  // namespace cinnabar
