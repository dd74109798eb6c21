#include "cinnabar/render/first_look.h"

#include <algorithm>
#include <chrono>
#include <cmath>

namespace cinnabar {

std::optional<Film> first_look(const Tracer& tracer, int width, int height, double seconds,
                               const std::atomic<bool>* cancel) {
  const auto scaled = [&](double by) {
    return tracer.film(std::max(1, static_cast<int>(width * by)), std::max(1, static_cast<int>(height * by)),
                       Caustics::by_photons);
  };
  Film probe = scaled(0.25);
  const auto began = std::chrono::steady_clock::now();
  if (!tracer.add_pass(probe, cancel)) return std::nullopt;
  const double took = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  const double share = took > 0.0 ? (seconds - took) / took / 16.0 : 1.0;  // of all pixels, in what is left
  constexpr double worth = 2.0 / 16.0;                                     // else little is won over the probe
  if (share < worth) return probe;
  Film film = scaled(std::min(1.0, std::sqrt(share)));
  if (!tracer.add_pass(film, cancel)) return std::nullopt;
  return film;
}

}  // namespace cinnabar
