#include "cinnabar/render/filter.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <unordered_map>
#include <unordered_set>

#include "cinnabar/color/white.h"

namespace cinnabar {

void hold_dots(Picture& picture) {
  constexpr float most_over = 8.0f;
  const int w = picture.width, h = picture.height;
  std::vector<float> tones(picture.pixels.size());
  std::ranges::transform(picture.pixels, tones.begin(), [](const Rgb& c) { return luminance(c); });
  tbb::parallel_for(0, h, [&](int y) {
    for (int x = 0; x < w; ++x) {
      // The three brightest about it, kept in order.
      float first = -1.0f, second = -1.0f, third = -1.0f;
      for (int j = std::max(0, y - 1); j <= std::min(h - 1, y + 1); ++j)
        for (int i = std::max(0, x - 1); i <= std::min(w - 1, x + 1); ++i) {
          if (i == x && j == y) continue;
          const float tone =
              tones[static_cast<std::size_t>(j) * static_cast<std::size_t>(w) + static_cast<std::size_t>(i)];
          third = std::max(third, std::min(second, tone));
          second = std::max(second, std::min(first, tone));
          first = std::max(first, tone);
        }
      if (third < 0.0f) continue;  // fewer than three
      const std::size_t at =
          static_cast<std::size_t>(y) * static_cast<std::size_t>(w) + static_cast<std::size_t>(x);
      if (const float most = third * most_over + 1e-6f; tones[at] > most)
        picture.pixels[at] = picture.pixels[at] * (most / tones[at]);
    }
  });
}

std::vector<Rgb> stands_behind(const Film& film) {
  constexpr int enough = 8;  // passes
  const int reach = film.passes < enough / 2 ? 2 : 1;
  std::vector<Rgb> out(film.pixels());
  tbb::parallel_for(0, film.height, [&](int y) {
    for (int x = 0; x < film.width; ++x) {
      const FirstHit& own = film.first[film.at(x, y)];
      Rgb& behind = out[film.at(x, y)] = own.behind;
      if (film.passes >= enough || !own.mesh || own.mesh->medium < 0) continue;
      Rgb sum{};
      float count = 0.0f;
      for (int j = std::max(0, y - reach); j <= std::min(film.height - 1, y + reach); ++j)
        for (int i = std::max(0, x - reach); i <= std::min(film.width - 1, x + reach); ++i)
          if (const FirstHit& there = film.first[film.at(i, j)]; there.mesh == own.mesh)
            sum += there.behind, count += 1.0f;
      behind = sum * (1.0f / count);
    }
  });
  return out;
}

Rgb tint_of(const FirstHit& first) {
  constexpr float least = 0.03f;
  if (!first.mesh || first.mesh->medium >= 0 || first.mesh->light >= 0) return {1, 1, 1};
  return {std::max(least, first.albedo.x), std::max(least, first.albedo.y), std::max(least, first.albedo.z)};
}

namespace {

constexpr std::array<float, 3> kernel{0.375f, 0.25f, 0.0625f};
constexpr float still_noise = 1.5f;  // differences of so many are still taken for noise

/// What is asked of each pixel, number by number: several pixels of a row are worked on at once.
struct Pixels {
  explicit Pixels(const Film& film)
      : width(film.width),
        height(film.height),
        bodies(film.pixels()),
        turned(film.pixels()),
        behind(film.pixels()) {
    const std::vector<Rgb> stands = stands_behind(film);
    const Mesh* last = nullptr;
    int number = -1;
    for (std::size_t i = 0; i < bodies.size(); ++i) {
      const FirstHit& first = film.first[i];
      if (first.mesh != last || i == 0)
        last = first.mesh, number = numbers.try_emplace(last, static_cast<int>(numbers.size())).first->second;
      bodies[i] = number;
      turned.put(i, first.normal);
      behind.put(i, first.mesh && first.mesh->medium >= 0 ? stands[i] : Rgb{});
    }
    // What several share is like none of them, and evened with nothing.
    int alone = -1;
    for (const Mixture& m : film.mixtures) bodies[m.pixel] = alone--;
  }
  /// Three numbers a pixel.
  struct Planes {
    explicit Planes(std::size_t n) : x(n), y(n), z(n) {}
    void put(std::size_t i, const Vec3f& v) { x[i] = v.x, y[i] = v.y, z[i] = v.z; }
    [[nodiscard]] Vec3f at(std::size_t i) const { return {x[i], y[i], z[i]}; }
    std::vector<float> x, y, z;
  };
  int width, height;
  std::unordered_map<const Mesh*, int> numbers;
  std::vector<int> bodies;
  Planes turned, behind;

  /// Calls `tap` for each neighbour of a row's pixels, 5 x 5 about them and `step` apart: with the first pixel
  /// that has it, how far the neighbour is from it, how many pixels have one, and which of the five it is each
  /// way.
  template <class Tap>
  void about(int y, int step, const Tap& tap) const {
    for (int j = -2; j <= 2; ++j) {
      if (y + j * step < 0 || y + j * step >= height) continue;
      for (int i = -2; i <= 2; ++i) {
        const int from = std::max(0, -i * step), to = std::min(width, width - i * step);
        if (from < to)
          tap(static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(from),
              static_cast<std::ptrdiff_t>(j * step) * width + i * step, to - from, i, j);
      }
    }
  }
};

/// Adds what a neighbour of each pixel has where it shows the same body.
void add_of_same(const int* own, const int* there, const float* what, int count, float* __restrict sum) {
  for (int k = 0; k < count; ++k) sum[k] += own[k] == there[k] ? what[k] : 0.0f;
}

/// By pixel, the sum over it and those about it that show the same body.
std::vector<float> sums_about(const Pixels& pixels, const std::vector<float>& of) {
  std::vector<float> out(of.size());
  tbb::parallel_for(0, pixels.height, [&](int y) {
    pixels.about(y, 1, [&](std::size_t at, std::ptrdiff_t off, int count, int, int) {
      add_of_same(&pixels.bodies[at], &pixels.bodies[at] + off, &of[at] + off, count, &out[at]);
    });
  });
  return out;
}

/// By pixel, the variance of the mean as a share of its square; evened over the neighbours that show the same
/// body.
std::vector<float> relative_variances(const Film& film, const Pixels& pixels) {
  std::vector<float> out(film.pixels(), 1.0f);
  if (film.passes < 2 || film.squares.size() != film.pixels()) return out;
  std::vector<float> variances(out.size()), squares(out.size());
  for (std::size_t i = 0; i < out.size(); ++i)
    variances[i] = film.variance_of(i), squares[i] = film.mean_of(i) * film.mean_of(i);
  const std::vector<float> spread = sums_about(pixels, variances), square = sums_about(pixels, squares);
  for (std::size_t i = 0; i < out.size(); ++i)
    out[i] = square[i] > 0.0f ? std::min(1.0f, spread[i] / square[i]) : 0.0f;
  return out;
}

/// By pixel, the mean of those about it that show the same body: of a pass or two a dark dot says nothing of its
/// noise.
std::vector<float> tones_about(const Pixels& pixels, const std::vector<float>& tones) {
  std::vector<float> out = sums_about(pixels, tones);
  const std::vector<float> all = sums_about(pixels, std::vector<float>(tones.size(), 1.0f));
  for (std::size_t i = 0; i < out.size(); ++i) out[i] /= all[i];
  return out;
}

/// What pixels of a row, and one neighbour of each, say of themselves. Pointers of plain numbers: these loops are
/// worked on several pixels at a time.
struct Compared {
  const int *own, *there;  // bodies
  const float *turned[2][3], *behind[2][3], *tone[2], *noise[2];
  const float* light[3];
};
/// Adds the neighbour's part to what each pixel gathers: light, weight, and the noise that stays in it; `parts`
/// are told.
void gather_from(const Compared& c, int count, float share, float* __restrict x, float* __restrict y,
                 float* __restrict z, float* __restrict weight, float* __restrict spread,
                 float* __restrict parts) {
  const int *own = c.own, *there = c.there;
  const float *ax = c.turned[0][0], *ay = c.turned[0][1], *az = c.turned[0][2];
  const float *bx = c.turned[1][0], *by = c.turned[1][1], *bz = c.turned[1][2];
  const float *px = c.behind[0][0], *py = c.behind[0][1], *pz = c.behind[0][2];
  const float *qx = c.behind[1][0], *qy = c.behind[1][1], *qz = c.behind[1][2];
  const float *tone = c.tone[0], *other_tone = c.tone[1], *noise = c.noise[0], *other_noise = c.noise[1];
  const float *lx = c.light[0], *ly = c.light[1], *lz = c.light[2];
  for (int k = 0; k < count; ++k) {
    const float facing = std::max(0.0f, ax[k] * bx[k] + ay[k] * by[k] + az[k] * bz[k]);
    const float n2 = facing * facing, n8 = n2 * n2 * n2 * n2;
    const float dx = px[k] - qx[k], dy = py[k] - qy[k], dz = pz[k] - qz[k];
    const float apart = other_tone[k] - tone[k];
    const float far = apart * apart / (still_noise * still_noise * (noise[k] + other_noise[k]) + 1e-12f);
    const float same = own[k] == there[k] ? share : 0.0f;
    const float part = same * n8 / ((1.0f + 50.0f * (dx * dx + dy * dy + dz * dz)) * (1.0f + far * far));
    x[k] += lx[k] * part;
    y[k] += ly[k] * part;
    z[k] += lz[k] * part;
    weight[k] += part;
    spread[k] += part * part * other_noise[k];
    parts[k] = part;
  }
}

/// What is printed and stamped on things, by pixel, and from where to where it lies in each row.
struct Prints {
  explicit Prints(const Film& film)
      : reflects(film.pixels()),
        foil(film.pixels()),
        passes(static_cast<float>(std::max(1, film.passes))),
        rows(static_cast<std::size_t>(film.height)) {
    const auto width = static_cast<std::size_t>(film.width);
    std::unordered_map<const Mesh*, Rgb> known;
    std::unordered_set<const Mesh*> differ;
    const Mesh* last = nullptr;
    Rgb of_last = known[nullptr];
    for (std::size_t i = 0; i < film.pixels(); ++i) {
      const FirstHit& first = film.first[i];
      if (first.mesh != last) last = first.mesh, of_last = known.try_emplace(last, first.albedo).first->second;
      if (!(first.albedo == of_last) || first.foil > 0.0f) differ.insert(last);
      reflects.put(i, first.albedo);
      foil[i] = first.foil;
    }
    for (std::size_t i = 0; i < film.pixels(); ++i)
      if (differ.contains(film.first[i].mesh)) rows[i / width].reach(i % width);
  }
  Pixels::Planes reflects;
  std::vector<float> foil;
  float passes;  ///< noise makes believe that light and print differ together
  struct Span {
    std::size_t from = 0, to = 0;
    void reach(std::size_t x) {
      if (to == 0) from = x;
      to = x + 1;
    }
    [[nodiscard]] bool holds(std::size_t x) const { return from <= x && x < to; }
  };
  std::vector<Span> rows;
};
/// How light goes with them: weighted sums over what each pixel of a row gathers. A pixel's light goes in part
/// with its print, in part with its foil, and in part it is mirrored over both; a plane through what was gathered
/// tells (regression of the first order; compare Bitterli et al. 2016).
class AlongPrint {
 public:
  AlongPrint(std::size_t n, float passes) : passes_(passes), foil_(n), foil_squares_(n), channels_{n, n, n} {}
  void add(std::size_t at, const float* parts, const std::array<const float*, 3>& prints, const float* foil,
           const std::array<const float*, 3>& light, int count) {
    float* __restrict f = &foil_[at], * __restrict ff = &foil_squares_[at];
    for (int k = 0; k < count; ++k) f[k] += parts[k] * foil[k], ff[k] += parts[k] * foil[k] * foil[k];
    for (std::size_t c = 0; c < 3; ++c) channels_[c].add(at, parts, prints[c], foil, light[c], count);
  }
  [[nodiscard]] Rgb at(std::size_t i, float weight, const Rgb& light, const Rgb& print, float foil) const {
    return {told(channels_[0], i, weight, light.x, print.x, foil),
            told(channels_[1], i, weight, light.y, print.y, foil),
            told(channels_[2], i, weight, light.z, print.z, foil)};
  }

 private:
  struct Channel {
    Channel(std::size_t n) : p(n), pp(n), pf(n), pl(n), fl(n) {}
    void add(std::size_t at, const float* parts, const float* print, const float* foil, const float* light,
             int count) {
      float* __restrict to_p = &p[at], * __restrict to_pp = &pp[at], * __restrict to_pf = &pf[at], * __restrict to_pl = &pl[at], * __restrict to_fl = &fl[at];
      for (int k = 0; k < count; ++k) {
        const float part = parts[k] * print[k];
        to_p[k] += part, to_pp[k] += part * print[k], to_pf[k] += part * foil[k], to_pl[k] += part * light[k];
        to_fl[k] += parts[k] * foil[k] * light[k];
      }
    }
    std::vector<float> p, pp, pf, pl, fl;  // print, foil, light and their products
  };
  /// What goes with the print is never less than nothing; where print hardly differs all is taken to go with it.
  [[nodiscard]] float told(const Channel& c, std::size_t i, float weight, float light, float own_print,
                           float own_foil) const {
    const float hardly = 3e-3f / passes_, hardly_foil = 8e-3f / passes_;  // squares of reflectances, of shares
    const float print = c.p[i] / weight, foil = foil_[i] / weight, most = print > 0.0f ? light / print : 0.0f;
    const float pp = std::max(0.0f, c.pp[i] / weight - print * print) + hardly,
                ff = std::max(0.0f, foil_squares_[i] / weight - foil * foil) + hardly_foil,
                pf = c.pf[i] / weight - print * foil, pl = c.pl[i] / weight - print * light + hardly * most,
                fl = c.fl[i] / weight - foil * light;
    const float slope = std::clamp((pl * ff - fl * pf) / std::max(1e-9f, pp * ff - pf * pf), 0.0f, most);
    return std::max(0.0f, light + slope * (own_print - print) + (fl - pf * slope) / ff * (own_foil - foil));
  }
  float passes_;
  std::vector<float> foil_, foil_squares_;
  std::array<Channel, 3> channels_;
};

/// What a row gathers from its neighbours.
struct Gathered {
  explicit Gathered(std::size_t n) : x(n), y(n), z(n), weight(n), spread(n), parts(n) {}
  std::vector<float> x, y, z, weight, spread, parts;
};

/// One round over the picture's planes: what comes out, and its noise.
void even_out(const Pixels& pixels, int step, const Pixels::Planes& in, const Prints& prints,
              const std::vector<float>& tones, const std::vector<float>& noise, Pixels::Planes& out,
              std::vector<float>& out_noise) {
  const auto width = static_cast<std::size_t>(pixels.width);
  const auto of = [](const Pixels::Planes& p, std::size_t k) { return std::array{&p.x[k], &p.y[k], &p.z[k]}; };
  tbb::parallel_for(0, pixels.height, [&](int y) {
    Gathered sums(width);
    const Prints::Span& printed = prints.rows[static_cast<std::size_t>(y)];
    AlongPrint along(printed.to, prints.passes);
    const std::size_t row = static_cast<std::size_t>(y) * width;
    pixels.about(y, step, [&](std::size_t at, std::ptrdiff_t off, int count, int i, int j) {
      if (off == 0) return;
      const std::size_t near = at + static_cast<std::size_t>(off);
      Compared c{&pixels.bodies[at],         &pixels.bodies[near],       {}, {},
                 {&tones[at], &tones[near]}, {&noise[at], &noise[near]}, {}};
      for (const int side : {0, 1}) {
        std::ranges::copy(of(pixels.turned, side ? near : at), c.turned[side]);
        std::ranges::copy(of(pixels.behind, side ? near : at), c.behind[side]);
      }
      std::ranges::copy(of(in, near), c.light);
      gather_from(c, count,
                  kernel[static_cast<std::size_t>(std::abs(i))] * kernel[static_cast<std::size_t>(std::abs(j))],
                  &sums.x[at - row], &sums.y[at - row], &sums.z[at - row], &sums.weight[at - row],
                  &sums.spread[at - row], sums.parts.data());
      const std::size_t x = at - row, from = std::max(x, printed.from),
                        to = std::min(x + static_cast<std::size_t>(count), printed.to);
      if (from < to) {
        const std::size_t there = near + from - x;
        along.add(from, &sums.parts[from - x], of(prints.reflects, there), &prints.foil[there], of(in, there),
                  static_cast<int>(to - from));
      }
    });
    constexpr float own = kernel[0] * kernel[0];
    if (const std::size_t from = row + printed.from, count = printed.to - printed.from; count > 0)
      along.add(printed.from, std::vector<float>(count, own).data(), of(prints.reflects, from), &prints.foil[from],
                of(in, from), static_cast<int>(count));
    for (std::size_t x = 0; x < width; ++x) {
      const std::size_t at = row + x;
      const float weight = sums.weight[x] + own, by = 1.0f / weight;
      Rgb light = (Rgb{sums.x[x], sums.y[x], sums.z[x]} + in.at(at) * own) * by;
      if (printed.holds(x)) light = along.at(x, weight, light, prints.reflects.at(at), prints.foil[at]);
      out.put(at, light);
      out_noise[at] = (sums.spread[x] + own * own * noise[at]) * by * by;
    }
  });
}

/// What a pixel that several share would show of each, from the pixels about that show nothing else; nothing where
/// one of them has none. `print` is what the pixel's own print reflects.
std::optional<Rgb> put_together(const Mixture& m, const Film& film, const Pixels& pixels,
                                const Pixels::Planes& light, const std::vector<Rgb>& tints) {
  constexpr int reach = 2;
  const int x = static_cast<int>(m.pixel) % film.width, y = static_cast<int>(m.pixel) / film.width;
  Rgb out{};
  for (std::size_t k = 0; k < m.of.size() && m.share[k] > 0.0f; ++k) {
    const auto number = pixels.numbers.find(m.of[k]);
    if (number == pixels.numbers.end()) return std::nullopt;
    Rgb sum{};
    float weight = 0.0f;
    const bool printed = m.of[k] && m.of[k]->picture && m.of[k] == film.first[m.pixel].mesh;
    for (int j = std::max(0, y - reach); j <= std::min(film.height - 1, y + reach); ++j)
      for (int i = std::max(0, x - reach); i <= std::min(film.width - 1, x + reach); ++i) {
        const std::size_t at = film.at(i, j);
        if (pixels.bodies[at] != number->second) continue;
        const float part = 1.0f / static_cast<float>((i - x) * (i - x) + (j - y) * (j - y));
        const Rgb l = light.at(at), t = tints[at];
        sum += (printed ? Rgb{l.x / t.x, l.y / t.y, l.z / t.z} : l) * part;
        weight += part;
      }
    if (weight <= 0.0f) return std::nullopt;
    out += sum * (printed ? tints[m.pixel] : Rgb{1, 1, 1}) * (m.share[k] / weight);
  }
  return out;
}

}  // namespace

Picture filtered(const Picture& picture, const Film& guide, int rounds, const std::vector<float>* noise_left) {
  Picture out = picture;
  std::vector<Rgb> tints(out.pixels.size());
  for (std::size_t i = 0; i < tints.size(); ++i) {
    const Rgb t = tints[i] = tint_of(guide.first[i]);
    out.pixels[i] *= Rgb{1 / t.x, 1 / t.y, 1 / t.z};
  }
  hold_dots(out);
  for (std::size_t i = 0; i < tints.size(); ++i)  // what foil mirrors may well be that bright
    out.pixels[i] = guide.first[i].foil > 0.1f ? picture.pixels[i] : out.pixels[i] * tints[i];
  const Prints prints(guide);
  const Pixels pixels(guide);
  Pixels::Planes light(tints.size()), next(tints.size());
  for (std::size_t i = 0; i < tints.size(); ++i) light.put(i, out.pixels[i]);
  std::vector<float> tones(tints.size()), noise = relative_variances(guide, pixels), next_noise(tints.size());
  const auto read_tones = [&] {
    for (std::size_t i = 0; i < tones.size(); ++i) {
      const Rgb l = light.at(i), t = tints[i];
      tones[i] = luminance(Rgb{l.x / t.x, l.y / t.y, l.z / t.z});
    }
  };
  read_tones();
  const std::vector<float> about = guide.passes < 4 ? tones_about(pixels, tones) : tones;
  for (std::size_t i = 0; i < tones.size(); ++i) {
    const float tone = std::max(tones[i], about[i]);
    noise[i] *= tone * tone * (noise_left ? (*noise_left)[i] : 1.0f);
  }
  for (int round = 0; round < rounds; ++round) {
    if (round > 0) read_tones();
    even_out(pixels, 1 << round, light, prints, tones, noise, next, next_noise);
    std::swap(light, next);
    std::swap(noise, next_noise);
  }
  for (std::size_t i = 0; i < tints.size(); ++i) out.pixels[i] = light.at(i);
  // Of few passes a pixel that several share has met now this, now that: the fewer, the less is it believed.
  const auto believe = [&](std::size_t pixel, const Rgb& own, const Rgb& others) {
    constexpr float as_good_as = 3.5f;  // passes
    const float passes =
        static_cast<float>(guide.passes) / (noise_left ? std::max(1e-3f, (*noise_left)[pixel]) : 1.0f);
    out.pixels[pixel] = own + (others - own) * (as_good_as / (as_good_as + passes));
  };
  tbb::parallel_for(std::size_t{0}, guide.mixtures.size(), [&](std::size_t k) {
    const Mixture& m = guide.mixtures[k];
    if (const auto together = put_together(m, guide, pixels, light, tints))
      believe(m.pixel, light.at(m.pixel), *together);
  });
  return out;
}

}  // namespace cinnabar
