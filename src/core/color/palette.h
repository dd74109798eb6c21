// Palettes: the few colours that stand for many, and what follows for backdrop, gel and key colour. Colours are
// linear BT.709 reflectances; differences CIEDE2000 under D65.
#pragma once
#include <array>
#include <string>
#include <vector>

#include "cinnabar/base/keys.h"
#include "cinnabar/base/vec.h"

namespace cinnabar {

/// CIE L*a*b* (CIE 15:2004) of linear BT.709 under D65.
[[nodiscard]] std::array<double, 3> lab_of(const Vec3& linear);
/// Its inverse; what lies outside BT.709 is clipped to 0..1.
[[nodiscard]] Vec3 linear_of(const std::array<double, 3>& lab);
/// CIEDE2000 of two linear colours.
[[nodiscard]] double difference_of(const Vec3& a, const Vec3& b);
/// "#rrggbb", encoded by IEC 61966-2-1.
[[nodiscard]] std::string hex_of(const Vec3& linear);

/// How far a product stands from a key screen of linear BT.709 `screen` that is lit `shade_stops` under it.
struct KeyDifferenceInputs {
  std::vector<double> screen, product;
  double shade_stops;
  static Keys<KeyDifferenceInputs> keys();
};
struct KeyDifference {
  std::vector<double> screen_lab, product_lab;
  double de2000;
  static Results<KeyDifference> results();
};
[[nodiscard]] Expected<KeyDifference> key_difference(const KeyDifferenceInputs&);

struct Palette {
  struct Colour {
    Vec3 linear;
    double share = 1;  ///< weight, over 0
  };
};

/// At most `count` colours for `samples`, the largest share first, shares adding up to 1: k-means in L*a*b* (Lloyd
/// 1982), begun with the commonest sample and then ever the one farthest from those chosen, weighed by share; the
/// same samples always give the same palette. Fewer where there are fewer different samples.
[[nodiscard]] std::vector<Palette::Colour> palette_of(const std::vector<Palette::Colour>& samples,
                                                      std::size_t count);

/// A key colour that the product does not contain: green unless something of it is nearer than 40, then blue, then
/// magenta; where none is 40 away, the farthest. Colours of less than a fiftieth are passed over.
struct KeyAdvice {
  std::string name;
  Vec3 colour;
  double difference = 0;  ///< to the nearest colour of the product
  bool safe = true;       ///< at least 40
};
[[nodiscard]] KeyAdvice key_colour(const std::vector<Palette::Colour>& product);

/// Backdrops by how well the product stands before them: each with its difference to the nearest of the product's
/// colours and the difference in lightness to its mean, the best first. Black, grey, white, and the hue across
/// from the product's own at three lightnesses.
struct BackdropAdvice {
  std::string name;
  Vec3 colour;
  double difference = 0, lightness = 0;
};
[[nodiscard]] std::vector<BackdropAdvice> backdrops_for(const std::vector<Palette::Colour>& product);

/// The hue across from the product's most colourful share, as a gel for a rim or backdrop light, in the trade's
/// word
/// ("blue", "teal", "amber"); empty where the product has next to no colour (chroma under 8).
[[nodiscard]] std::string gel_for(const std::vector<Palette::Colour>& product);
/// The trade's word for the colour that a light has in the picture: "white" up to a chroma of 6 at its brightest,
/// "pale blue" up to 22, else "blue" (common practice, no source).
[[nodiscard]] std::string light_word(const Vec3& linear);

}  // namespace cinnabar
