// What a solver proposes, and what it proposes it on. For solvers only.
#pragma once
#include <functional>

#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/forecast/solvers/solvers.h"

namespace cinnabar {

/// Changes that should do what was asked, and what tells whether they do on the bench as it is then: what is
/// wrong, or nothing.
struct Proposal {
  std::string title;
  Values changes;
  std::function<std::string(const Bench& then)> fault;
};
struct Proposals {
  std::vector<Proposal> list;
  std::string impossible;  ///< why there are none
};
using Solver = Expected<Proposals> (*)(const Bench&, const SolveRequest&);

/// The shot's tracks with some put in place of theirs, or added, and others taken off.
[[nodiscard]] Values with_tracks(const Bench& b, const std::vector<KeyedTrack>& put,
                                 const std::vector<std::string>& off = {});
/// With a need of the shot put in, whether or not it has had any.
void add_need(const Bench& b, Values& changes, const std::string& key, const Json& need);
[[nodiscard]] KeyedTrack value_track(const std::string& target, Shape shape,
                                     std::vector<std::pair<double, double>> keys);
[[nodiscard]] KeyedTrack place_track(const std::string& target, Shape shape,
                                     std::vector<std::pair<double, Vec3>> keys);
[[nodiscard]] inline KeyedTrack value_track(Tracked what, Shape shape,
                                            std::vector<std::pair<double, double>> keys) {
  return value_track(target_text(what), shape, std::move(keys));
}
[[nodiscard]] inline KeyedTrack place_track(Tracked what, Shape shape, std::vector<std::pair<double, Vec3>> keys) {
  return place_track(target_text(what), shape, std::move(keys));
}
/// The first product of the shot, and its middle at a set time.
struct HeldProduct {
  const ShotProduct* placed;
  const Product* product;
  [[nodiscard]] Vec3 middle(const Project& project, const Shot& shot, double t) const;
  /// Its height in the frame, percent of what the edit keeps of the frame, as it is looked at; nothing behind the
  /// lens.
  [[nodiscard]] std::optional<double> size(const Project& project, const Shot& shot, double t) const;
};
[[nodiscard]] std::optional<HeldProduct> held_product(const Project& project, const Shot& shot);
/// The moment of the spot's nearest beat, on the shot's screen clock; the same without beats.
[[nodiscard]] double on_beat(const Bench& b, double screen);

// One a kind; each fails where the shot lacks what it is about.
[[nodiscard]] Expected<Proposals> solve_facing(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_peak(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_spin(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_loop(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_stop_motion(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_ramp(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_centred(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_orbit(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_boom(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_push(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_rack(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_match(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_release(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_height(const Bench& b, const SolveRequest& request);
[[nodiscard]] Expected<Proposals> solve_flow(const Bench& b, const SolveRequest& request);

}  // namespace cinnabar
