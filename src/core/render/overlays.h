// What is drawn over the predicted picture, computed from its film: blur discs, smear strokes, and one place read
// out. Places are shares of the frame, x to the right and y down.
#pragma once
#include <optional>
#include <vector>

#include "cinnabar/render/film.h"

namespace cinnabar {

/// The disc that a point there becomes: its diameter as a share of the frame's width (thin lens, Ray 2002).
struct FocusDisc {
  double x, y, diameter;
};
/// Discs on a grid of `columns` across the picture, where the film's first rays met something.
[[nodiscard]] std::vector<FocusDisc> focus_discs(const Film& film, const StagedCamera& camera, int columns);

/// The way of a point over one exposure, from where it is when the shutter opens to where it is when it closes.
struct SmearStroke {
  double x0, y0, x1, y1;
  double px;  ///< recorded pixels
};
/// Strokes of at least a tenth of a recorded pixel, on a grid of `columns`.
[[nodiscard]] std::vector<SmearStroke> smear_strokes(const Film& film, const StagedWorld& world, const Shot& shot,
                                                     int columns);

/// A lamp whose light pulses, as one exposure leaves it.
struct RowRipple {
  std::size_t layer;  ///< of the film
  double left;        ///< share of its light that still swings up and down from row to row
  double hz;          ///< pulses a second
};
/// Of a shot's lamps whose ripple the kit knows, as the shutter leaves it (`flicker`); lamps that are off, and the
/// sky, do not pulse.
[[nodiscard]] std::vector<RowRipple> row_ripples(const Project& project, const Shot& shot);
/// A picture as a sensor that is read row by row over `readout` seconds meets such lamps: each row as many of
/// their pulses on as it is read later, the first at a peak at set second 0. `whole` is what the film is without
/// them.
[[nodiscard]] Picture banded(Picture whole, const Film& film, const LayerWeights& weights,
                             const std::vector<RowRipple>& ripples, double readout, double set_time);

/// Something that has nothing to do in the picture, and the share of the frame in which it is met first.
struct StrayThing {
  Role role = Role::gear;
  int thing = -1;  ///< as a mesh has it
  double share = 0;
};
/// Most of the frame first.
[[nodiscard]] std::vector<StrayThing> stray_things(const Film& film, const Setup& setup);

/// Shares of the luminance of what is of that role in the picture, by layer of the film: lights, then the ambient.
/// Empty where nothing of it is seen, or it gets no light.
[[nodiscard]] std::vector<double> layer_shares(const Film& film, const LayerWeights& weights, Role role);

/// One place of the picture, read out.
struct Probe {
  double luminance = 0;              ///< cd/m2, evened over a few pixels
  double stops = 0;                  ///< from the exposure's own grey and the shot's target
  std::vector<double> shares;        ///< of each light, then the ambient; they add up to 1 where there is light
  double distance = 0;               ///< along the axis, metres; 0 where nothing is met
  double blur_px = 0, smear_px = 0;  ///< blur in delivered pixels, smear in recorded ones
};
[[nodiscard]] Probe probe(const Film& film, const StagedWorld& world, const LayerWeights& weights,
                          const Shot& shot, double x, double y);

/// What the first ray through a place of the frame met.
struct PlaceMet {
  Vec3 at;
  Role role;
  Vec3 normal{0, 1, 0};  ///< of the surface there, unit, toward the camera
  int thing = -1;        ///< its place in its list, as a mesh has it
  double across = 0;     ///< of a product: from -1 at its left edge in that row of the picture to 1 at its right
};
[[nodiscard]] std::optional<PlaceMet> place_met(const Film& film, const StagedCamera& camera, double x, double y);

}  // namespace cinnabar
