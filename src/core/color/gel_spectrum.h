// Coloured gels by what they let through at each wavelength.
#pragma once
#include <array>
#include <vector>

namespace cinnabar {

/// Share that a gel lets through at a wavelength in nanometres.
struct PassedAt {
  double nm, share;
  bool operator==(const PassedAt&) const = default;
};

/// What a black body of `kelvin` shows behind the gel against without it, in linear BT.709 red, green and blue, 0
/// to 1: Planck's law and the CIE 1931 observer (multi-lobe fit of Wyman, Sloan and Shirley 2013, value from
/// memory). Between the points, which may stand in any order, in a straight line; beyond them held. What lies
/// outside the three bands is brought to their edge, its luminance kept. No points: everything goes through. Of
/// lamps whose own spectrum is another (LED, discharge) deep colours differ.
[[nodiscard]] std::array<double, 3> gel_bands(std::vector<PassedAt> curve, double kelvin);

/// CIE 1931 colour matching values at a wavelength, by that fit.
[[nodiscard]] std::array<double, 3> colour_matching(double nm);

}  // namespace cinnabar
