#include "cinnabar/optics/lens.h"

#include <fmt/format.h>

#include <cmath>

#include "cinnabar/base/vec.h"

namespace cinnabar {

Keys<EffectiveFNumberInputs> EffectiveFNumberInputs::keys() {
  static const Key<EffectiveFNumberInputs> list[]{
      {"f_number", "", positive, &EffectiveFNumberInputs::f_number},
      {"magnification", "", non_negative, &EffectiveFNumberInputs::magnification},
      {"pupil_ratio", "", positive, &EffectiveFNumberInputs::pupil_ratio}};
  return list;
}
Results<EffectiveFNumber> EffectiveFNumber::results() {
  static const ResultKey<EffectiveFNumber> list[]{
      {"f_number_effective", "", &EffectiveFNumber::f_number_effective},
      {"stops_lost", "stops", &EffectiveFNumber::stops_lost}};
  return list;
}
Expected<EffectiveFNumber> effective_f_number(const EffectiveFNumberInputs& in) {
  CINNABAR_TRY(check(in));
  const double factor = 1.0 + in.magnification / in.pupil_ratio;
  return EffectiveFNumber{in.f_number * factor, 2.0 * std::log2(factor)};
}

Keys<FieldOfViewInputs> FieldOfViewInputs::keys() {
  static const Key<FieldOfViewInputs> list[]{{"focal", "m", positive, &FieldOfViewInputs::focal},
                                             {"sensor_width", "m", positive, &FieldOfViewInputs::sensor_width},
                                             {"sensor_height", "m", positive, &FieldOfViewInputs::sensor_height},
                                             {"distance", "m", positive, &FieldOfViewInputs::distance}};
  return list;
}
Results<FieldOfView> FieldOfView::results() {
  static const ResultKey<FieldOfView> list[]{{"width", "m", &FieldOfView::width},
                                             {"height", "m", &FieldOfView::height},
                                             {"angle_h_deg", "deg", &FieldOfView::angle_h_deg},
                                             {"angle_v_deg", "deg", &FieldOfView::angle_v_deg},
                                             {"magnification", "", &FieldOfView::magnification}};
  return list;
}
Expected<FieldOfView> field_of_view(const FieldOfViewInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.distance <= in.focal) return out_of_range("distance", fmt::format("> focal ({:g})", in.focal));
  const double m = in.focal / (in.distance - in.focal);
  const double width = in.sensor_width / m, height = in.sensor_height / m;
  return FieldOfView{width, height, degrees(2.0 * std::atan(width / (2.0 * in.distance))),
                     degrees(2.0 * std::atan(height / (2.0 * in.distance))), m};
}

Keys<DepthOfFieldInputs> DepthOfFieldInputs::keys() {
  static const Key<DepthOfFieldInputs> list[]{{"focal", "m", positive, &DepthOfFieldInputs::focal},
                                              {"f_number", "", positive, &DepthOfFieldInputs::f_number},
                                              {"focus", "m", positive, &DepthOfFieldInputs::focus},
                                              {"circle", "m", positive, &DepthOfFieldInputs::circle}};
  return list;
}
Results<DepthOfField> DepthOfField::results() {
  static const ResultKey<DepthOfField> list[]{{"near", "m", &DepthOfField::near},
                                              {"far", "m", &DepthOfField::far},
                                              {"hyperfocal", "m", &DepthOfField::hyperfocal},
                                              {"depth", "m", &DepthOfField::depth}};
  return list;
}
Expected<DepthOfField> depth_of_field(const DepthOfFieldInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.focus <= in.focal) return out_of_range("focus", fmt::format("> focal ({:g})", in.focal));
  const double f = in.focal, s = in.focus;
  const double h = f * f / (in.f_number * in.circle) + f;
  DepthOfField out{.near = s * (h - f) / (h + s - 2.0 * f), .far = {}, .hyperfocal = h, .depth = {}};
  if (s < h) {
    out.far = s * (h - f) / (h - s);
    out.depth = *out.far - out.near;
  }
  return out;
}

Keys<DepthMacroInputs> DepthMacroInputs::keys() {
  static const Key<DepthMacroInputs> list[]{{"focal", "m", positive, &DepthMacroInputs::focal},
                                            {"f_number", "", positive, &DepthMacroInputs::f_number},
                                            {"magnification", "", positive, &DepthMacroInputs::magnification},
                                            {"pupil_ratio", "", positive, &DepthMacroInputs::pupil_ratio},
                                            {"circle", "m", positive, &DepthMacroInputs::circle}};
  return list;
}
Results<DepthMacro> DepthMacro::results() {
  static const ResultKey<DepthMacro> list[]{{"pupil_distance", "m", &DepthMacro::pupil_distance},
                                            {"in_front", "m", &DepthMacro::in_front},
                                            {"behind", "m", &DepthMacro::behind},
                                            {"depth", "m", &DepthMacro::depth}};
  return list;
}
Expected<DepthMacro> depth_macro(const DepthMacroInputs& in) {
  CINNABAR_TRY(check(in));
  const double s = in.focal * (1.0 / in.magnification + 1.0 / in.pupil_ratio),
               q = in.circle * in.f_number / (in.magnification * in.focal);
  DepthMacro out{.pupil_distance = s, .in_front = s * q / (1.0 + q), .behind = {}, .depth = {}};
  if (q < 1.0) {
    out.behind = s * q / (1.0 - q);
    out.depth = out.in_front + *out.behind;
  }
  return out;
}

Keys<MacroFocusInputs> MacroFocusInputs::keys() {
  static const Key<MacroFocusInputs> list[]{{"mark_distance", "m", positive, &MacroFocusInputs::mark_distance},
                                            {"magnification", "", positive, &MacroFocusInputs::magnification},
                                            {"tube", "m", non_negative, &MacroFocusInputs::tube}};
  return list;
}
Results<MacroFocus> MacroFocus::results() {
  static const ResultKey<MacroFocus> list[]{{"focal_effective", "m", &MacroFocus::focal_effective},
                                            {"magnification", "", &MacroFocus::magnification},
                                            {"subject_distance", "m", &MacroFocus::subject_distance},
                                            {"mark_distance", "m", &MacroFocus::mark_distance}};
  return list;
}
Expected<MacroFocus> macro_focus(const MacroFocusInputs& in) {
  CINNABAR_TRY(check(in));
  const double focal = in.mark_distance * in.magnification / ((1.0 + in.magnification) * (1.0 + in.magnification));
  const double m = in.magnification + in.tube / focal;
  return MacroFocus{focal, m, focal * (1.0 + 1.0 / m), focal * (2.0 + m + 1.0 / m)};
}

Keys<BlurDiscInputs> BlurDiscInputs::keys() {
  static const Key<BlurDiscInputs> list[]{{"focal", "m", positive, &BlurDiscInputs::focal},
                                          {"f_number", "", positive, &BlurDiscInputs::f_number},
                                          {"focus", "m", positive, &BlurDiscInputs::focus},
                                          {"distance", "m", positive, &BlurDiscInputs::distance}};
  return list;
}
Results<BlurDisc> BlurDisc::results() {
  static const ResultKey<BlurDisc> list[]{{"diameter", "m", &BlurDisc::diameter}};
  return list;
}
Expected<BlurDisc> blur_disc(const BlurDiscInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.focus <= in.focal) return out_of_range("focus", fmt::format("> focal ({:g})", in.focal));
  return BlurDisc{in.focal / in.f_number * std::abs(in.distance - in.focus) / in.distance * in.focal /
                  (in.focus - in.focal)};
}

Keys<AiryDiscInputs> AiryDiscInputs::keys() {
  static const Key<AiryDiscInputs> list[]{{"f_number", "", positive, &AiryDiscInputs::f_number},
                                          {"wavelength", "m", positive, &AiryDiscInputs::wavelength}};
  return list;
}
Results<AiryDisc> AiryDisc::results() {
  static const ResultKey<AiryDisc> list[]{{"diameter", "m", &AiryDisc::diameter}};
  return list;
}
Expected<AiryDisc> airy_disc(const AiryDiscInputs& in) {
  CINNABAR_TRY(check(in));
  constexpr double first_zero_of_j1_times_2_over_pi = 2.4393398;  // 2 x 3.8317060 / pi
  return AiryDisc{first_zero_of_j1_times_2_over_pi * in.f_number * in.wavelength};
}

}  // namespace cinnabar
