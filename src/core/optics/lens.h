// The thin lens: field, effective aperture, depth, blur and diffraction (Ray, Applied Photographic Optics, 2002).
// All lengths in metres; distances from the front principal plane.
#pragma once
#include <optional>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// f-number that counts for exposure at `magnification`; `pupil_ratio` is exit over entrance pupil.
struct EffectiveFNumberInputs {
  double f_number, magnification, pupil_ratio;
  static Keys<EffectiveFNumberInputs> keys();
};
struct EffectiveFNumber {
  double f_number_effective, stops_lost;
  static Results<EffectiveFNumber> results();
};
[[nodiscard]] Expected<EffectiveFNumber> effective_f_number(const EffectiveFNumberInputs&);

/// What the sensor sees at `distance` when focused there; `distance` must exceed `focal`.
struct FieldOfViewInputs {
  double focal, sensor_width, sensor_height, distance;
  static Keys<FieldOfViewInputs> keys();
};
struct FieldOfView {
  double width, height, angle_h_deg, angle_v_deg, magnification;
  static Results<FieldOfView> results();
};
[[nodiscard]] Expected<FieldOfView> field_of_view(const FieldOfViewInputs&);

/// Depth of field for a circle of confusion; far and depth have no value from the hyperfocal distance on.
struct DepthOfFieldInputs {
  double focal, f_number, focus, circle;
  static Keys<DepthOfFieldInputs> keys();
};
struct DepthOfField {
  double near;
  std::optional<double> far;
  double hyperfocal;
  std::optional<double> depth;
  static Results<DepthOfField> results();
};
[[nodiscard]] Expected<DepthOfField> depth_of_field(const DepthOfFieldInputs&);

/// Depth of field at close range, from the plane in focus, with the pupils apart: `pupil_ratio` is exit over
/// entrance pupil. `behind` and `depth` have no value where everything behind is sharp.
struct DepthMacroInputs {
  double focal, f_number, magnification, pupil_ratio, circle;
  static Keys<DepthMacroInputs> keys();
};
struct DepthMacro {
  double pupil_distance;  ///< entrance pupil to the plane in focus
  double in_front;
  std::optional<double> behind, depth;
  static Results<DepthMacro> results();
};
[[nodiscard]] Expected<DepthMacro> depth_macro(const DepthMacroInputs&);

/// From a maker's nearest focus, told from the sensor's mark, to the lens itself; `tube` lengthens it. Good to
/// about 2 cm, principal planes taken as one (common practice, no source).
struct MacroFocusInputs {
  double mark_distance, magnification, tube;
  static Keys<MacroFocusInputs> keys();
};
struct MacroFocus {
  double focal_effective, magnification;
  double subject_distance, mark_distance;  ///< from the principal plane, from the mark; both with the tube
  static Results<MacroFocus> results();
};
[[nodiscard]] Expected<MacroFocus> macro_focus(const MacroFocusInputs&);

/// Diameter, on the sensor, of the disc that a point at `distance` becomes.
struct BlurDiscInputs {
  double focal, f_number, focus, distance;
  static Keys<BlurDiscInputs> keys();
};
struct BlurDisc {
  double diameter;
  static Results<BlurDisc> results();
};
[[nodiscard]] Expected<BlurDisc> blur_disc(const BlurDiscInputs&);

/// Diameter of the Airy disc to its first dark ring; `f_number` effective, `wavelength` in metres.
struct AiryDiscInputs {
  double f_number, wavelength;
  static Keys<AiryDiscInputs> keys();
};
struct AiryDisc {
  double diameter;
  static Results<AiryDisc> results();
};
[[nodiscard]] Expected<AiryDisc> airy_disc(const AiryDiscInputs&);

}  // namespace cinnabar
