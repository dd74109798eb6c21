#include "cinnabar/planning/means.h"

namespace cinnabar {

Keys<LoadInputs> LoadInputs::keys() {
  static const Key<LoadInputs> list[]{{"watts", "W", non_negative, &LoadInputs::watts},
                                      {"volts", "V", positive, &LoadInputs::volts},
                                      {"breaker_a", "A", positive, &LoadInputs::breaker_a}};
  return list;
}
Results<Load> Load::results() {
  static const ResultKey<Load> list[]{
      {"amps", "A", &Load::amps}, {"share", "", &Load::share}, {"continuous_ok", "", &Load::continuous_ok}};
  return list;
}
Expected<Load> load(const LoadInputs& in) {
  CINNABAR_TRY(check(in));
  const double amps = in.watts / in.volts, used = amps / in.breaker_a;
  return Load{amps, used, used <= 0.8 * (1.0 + 1e-9)};
}

Keys<MediaInputs> MediaInputs::keys() {
  static const Key<MediaInputs> list[]{{"megabits_per_s", "Mb/s", positive, &MediaInputs::megabits_per_s},
                                       {"seconds", "s", non_negative, &MediaInputs::seconds}};
  return list;
}
Results<Media> Media::results() {
  static const ResultKey<Media> list[]{{"gigabytes", "GB", &Media::gigabytes}};
  return list;
}
Expected<Media> media(const MediaInputs& in) {
  CINNABAR_TRY(check(in));
  return Media{in.megabits_per_s * in.seconds / 8000.0};
}

}  // namespace cinnabar
