#include "cinnabar/color/palette.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/color/difference.h"
#include "cinnabar/color/white.h"

namespace cinnabar {
namespace {

using Lab = std::array<double, 3>;
constexpr Vec3 d65_white{0.95045593, 1.0, 1.08905775};  // D65 (0.3127, 0.3290)

double squared(const Lab& a, const Lab& b) {
  double sum = 0;
  for (int i = 0; i < 3; ++i) sum += (a[i] - b[i]) * (a[i] - b[i]);
  return sum;
}
double encoded(double c) {
  c = std::clamp(c, 0.0, 1.0);
  return srgb_encode(c);
}
double nearest_of(const Vec3& colour, const std::vector<Palette::Colour>& product) {
  double all = 0.0, nearest = 1e300;
  for (const auto& c : product) all += c.share;
  for (const auto& c : product)
    if (c.share >= 0.02 * all) nearest = std::min(nearest, difference_of(colour, c.linear));
  return product.empty() ? 100.0 : nearest;
}
/// Mean lightness, and the mean of a and b weighed by share and chroma.
Lab mean_of(const std::vector<Palette::Colour>& product) {
  Lab mean{};
  double all = 0, coloured = 0;
  for (const auto& c : product) {
    const Lab lab = lab_of(c.linear);
    const double chroma = std::hypot(lab[1], lab[2]);
    mean[0] += c.share * lab[0], all += c.share;
    mean[1] += c.share * chroma * lab[1], mean[2] += c.share * chroma * lab[2], coloured += c.share * chroma;
  }
  if (all > 0) mean[0] /= all;
  if (coloured > 0) mean[1] /= coloured, mean[2] /= coloured;
  return mean;
}

}  // namespace

Lab lab_of(const Vec3& c) {
  const Vec3 xyz{0.4123907993 * c.x + 0.3575843394 * c.y + 0.1804807884 * c.z,
                 0.2126390059 * c.x + 0.7151686788 * c.y + 0.0721923154 * c.z,
                 0.0193308187 * c.x + 0.1191947798 * c.y + 0.9505321522 * c.z};
  const auto f = [](double t) { return t > 216.0 / 24389.0 ? std::cbrt(t) : (24389.0 / 27.0 * t + 16.0) / 116.0; };
  const double x = f(xyz.x / d65_white.x), y = f(xyz.y / d65_white.y), z = f(xyz.z / d65_white.z);
  return {116 * y - 16, 500 * (x - y), 200 * (y - z)};
}
Vec3 linear_of(const Lab& lab) {
  const auto back = [](double t) { return t > 6.0 / 29.0 ? t * t * t : (116.0 * t - 16.0) * 27.0 / 24389.0; };
  const double y = (lab[0] + 16) / 116, x = y + lab[1] / 500, z = y - lab[2] / 200;
  const Vec3 xyz{back(x) * d65_white.x, back(y) * d65_white.y, back(z) * d65_white.z};
  const auto in = [](double v) { return std::clamp(v, 0.0, 1.0); };
  return {in(3.2409699419 * xyz.x - 1.5373831776 * xyz.y - 0.4986107603 * xyz.z),
          in(-0.9692436363 * xyz.x + 1.8759675015 * xyz.y + 0.0415550574 * xyz.z),
          in(0.0556300797 * xyz.x - 0.2039769589 * xyz.y + 1.0569715142 * xyz.z)};
}
double difference_of(const Vec3& a, const Vec3& b) {
  const auto d = colour_difference({.lab1 = lab_of(a), .lab2 = lab_of(b)});
  return d ? d->de2000 : 0.0;
}
std::string hex_of(const Vec3& c) {
  const auto byte = [](double v) { return static_cast<int>(std::lround(255.0 * encoded(v))); };
  return fmt::format("#{:02x}{:02x}{:02x}", byte(c.x), byte(c.y), byte(c.z));
}

std::vector<Palette::Colour> palette_of(const std::vector<Palette::Colour>& samples, std::size_t count) {
  std::vector<Lab> labs;
  std::vector<double> weights;
  for (const auto& s : samples)
    if (s.share > 0) labs.push_back(lab_of(s.linear)), weights.push_back(s.share);
  if (labs.empty() || count == 0) return {};
  std::vector<Lab> centres{
      labs[static_cast<std::size_t>(std::max_element(weights.begin(), weights.end()) - weights.begin())]};
  while (centres.size() < count) {
    double farthest = 1e-6;
    std::size_t at = labs.size();
    for (std::size_t i = 0; i < labs.size(); ++i) {
      double d = 1e300;
      for (const Lab& c : centres) d = std::min(d, squared(labs[i], c));
      if (d * weights[i] > farthest) farthest = d * weights[i], at = i;
    }
    if (at == labs.size()) break;  // no other colour is left
    centres.push_back(labs[at]);
  }
  std::vector<std::size_t> own(labs.size(), 0);
  std::vector<double> shares;
  for (int round = 0; round < 50; ++round) {
    bool moved = round == 0;
    for (std::size_t i = 0; i < labs.size(); ++i) {
      std::size_t best = 0;
      for (std::size_t k = 1; k < centres.size(); ++k)
        if (squared(labs[i], centres[k]) < squared(labs[i], centres[best])) best = k;
      moved = moved || best != own[i];
      own[i] = best;
    }
    std::vector<Lab> sums(centres.size(), Lab{});
    shares.assign(centres.size(), 0.0);
    for (std::size_t i = 0; i < labs.size(); ++i) {
      shares[own[i]] += weights[i];
      for (std::size_t j = 0; j < 3; ++j) sums[own[i]][j] += weights[i] * labs[i][j];
    }
    for (std::size_t k = 0; k < centres.size(); ++k)
      for (std::size_t j = 0; j < 3 && shares[k] > 0; ++j) centres[k][j] = sums[k][j] / shares[k];
    if (!moved) break;
  }
  double all = 0;
  for (const double s : shares) all += s;
  std::vector<Palette::Colour> out;
  for (std::size_t k = 0; k < centres.size(); ++k)
    if (shares[k] > 0) out.push_back({linear_of(centres[k]), shares[k] / all});
  std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
  return out;
}

KeyAdvice key_colour(const std::vector<Palette::Colour>& product) {
  // As painted or dyed for keying: saturated, not too dark (common practice, no source).
  const std::pair<const char*, Vec3> keys[]{
      {"green", {0.02, 0.40, 0.03}}, {"blue", {0.02, 0.07, 0.50}}, {"magenta", {0.50, 0.03, 0.30}}};
  KeyAdvice best;
  for (const auto& [name, colour] : keys) {
    const double d = nearest_of(colour, product);
    if (d >= 40.0) return {name, colour, d, true};
    if (d > best.difference || best.name.empty()) best = {name, colour, d, false};
  }
  return best;
}

std::vector<BackdropAdvice> backdrops_for(const std::vector<Palette::Colour>& product) {
  const Lab mean = mean_of(product);
  std::vector<BackdropAdvice> list{
      {"black", {0.02, 0.02, 0.02}}, {"middle grey", {0.18, 0.18, 0.18}}, {"white", {0.8, 0.8, 0.8}}};
  const double chroma = std::hypot(mean[1], mean[2]);
  if (chroma >= 8.0)
    for (const auto& [name, lightness, strength] :
         {std::tuple{"dark", 22.0, 20.0}, std::tuple{"middle", 50.0, 30.0}, std::tuple{"pale", 82.0, 18.0}})
      list.push_back({fmt::format("{} {}", name, gel_for(product)),
                      linear_of({lightness, -mean[1] / chroma * strength, -mean[2] / chroma * strength})});
  for (BackdropAdvice& b : list) {
    b.difference = nearest_of(b.colour, product);
    b.lightness = lab_of(b.colour)[0] - mean[0];
  }
  std::stable_sort(list.begin(), list.end(),
                   [](const auto& a, const auto& b) { return a.difference > b.difference; });
  return list;
}

namespace {
/// The trade's word for a hue angle of CIE L*a*b*, degrees from 0 to 360.
std::string hue_word(double hue) {
  // Hue angles of CIE L*a*b*: red lies at 40, yellow at 103, green at 136, cyan at 196, blue at 306 degrees.
  const std::pair<double, const char*> names[]{{20, "rose"},    {55, "red"},     {85, "amber"},
                                               {112, "yellow"}, {165, "green"},  {225, "teal"},
                                               {312, "blue"},   {345, "violet"}, {360, "rose"}};
  for (const auto& [until, name] : names)
    if (hue <= until) return name;
  return "rose";
}
}  // namespace

std::string gel_for(const std::vector<Palette::Colour>& product) {
  const Lab mean = mean_of(product);
  if (std::hypot(mean[1], mean[2]) < 8.0) return {};
  return hue_word(std::fmod(degrees(std::atan2(-mean[2], -mean[1])) + 720.0, 360.0));
}

std::string light_word(const Vec3& linear) {
  const double most = std::max({linear.x, linear.y, linear.z});
  if (!(most > 0.0)) return "dark";
  const Lab lab = lab_of(linear * (1.0 / most));
  const double chroma = std::hypot(lab[1], lab[2]);
  constexpr double neutral = 6.0, pale = 22.0;
  if (chroma < neutral) return "white";
  const std::string hue = hue_word(std::fmod(degrees(std::atan2(lab[2], lab[1])) + 720.0, 360.0));
  return chroma < pale ? "pale " + hue : hue;
}

Keys<KeyDifferenceInputs> KeyDifferenceInputs::keys() {
  static const Key<KeyDifferenceInputs> list[]{
      {"screen", "r,g,b linear", share, &KeyDifferenceInputs::screen},
      {"product", "r,g,b linear", share, &KeyDifferenceInputs::product},
      {"shade_stops", "stops", non_negative, &KeyDifferenceInputs::shade_stops}};
  return list;
}
Results<KeyDifference> KeyDifference::results() {
  static const ResultKey<KeyDifference> list[]{{"screen_lab", "", &KeyDifference::screen_lab},
                                               {"product_lab", "", &KeyDifference::product_lab},
                                               {"de2000", "", &KeyDifference::de2000}};
  return list;
}
Expected<KeyDifference> key_difference(const KeyDifferenceInputs& in) {
  CINNABAR_TRY(check(in));
  for (const auto& [key, list] : {std::pair{"screen", &in.screen}, std::pair{"product", &in.product}})
    if (list->size() != 3) return out_of_range(key, "three numbers from 0 to 1");
  const auto vec = [](const std::vector<double>& v) { return Vec3{v[0], v[1], v[2]}; };
  const Vec3 screen = vec(in.screen) * std::exp2(-in.shade_stops), product = vec(in.product);
  const auto a = lab_of(screen), b = lab_of(product);
  return KeyDifference{{a.begin(), a.end()}, {b.begin(), b.end()}, difference_of(screen, product)};
}

}  // namespace cinnabar
