// Wishes: what is wanted to be seen, and where things have to stand for it.
#pragma once
#include <functional>
#include <map>
#include <string>
#include <vector>

#include "cinnabar/forecast/asked.h"
#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// One wish: its kind, numbers by key, a place and a side where the kind takes them.
struct Wish {
  std::string kind;
  std::map<std::string, double> numbers;
  std::optional<Vec3> at;
  std::string from;
};

/// A kind of wish with what it takes.
struct WishKind {
  std::string kind;
  std::string title;  ///< "A stripe in the gloss"
  std::string what;
  std::vector<AskedNumber> numbers;
  bool at = false;    ///< a place on the first product, its own x, y, z
  bool from = false;  ///< a side: bottom, top, left or right
  [[nodiscard]] std::vector<std::string> keys() const;
};
[[nodiscard]] const std::vector<WishKind>& wish_kinds();
/// Reads "key=value" words. Fails with the kind's keys and their ranges. For `stripe`, `at` is a number.
[[nodiscard]] Expected<Wish> read_wish(const std::string& kind, const std::vector<std::string>& words);

/// Half of what a wish for no reflection keeps free about its place, metres; own measure: a fingertip.
inline constexpr double free_radius = 0.004;

/// An answer: what changes, what the first wish's measure is then, and how the levels move.
struct WishAnswer {
  std::string title;
  Values changes;  ///< of the document as it is, in order
  double value = 0;
  bool met = false;  ///< all wishes at once
  std::vector<MovedLevel> levels;
};
struct WishAnswers {
  std::vector<WishAnswer> list;  ///< at most three, those that meet every wish first, then the least harmful
  std::string why;               ///< where no answer meets them: which wish stands against it
  double short_of = 0;           ///< and by how much the nearest misses it, in the wish's own measure
};

/// Answers that room and kit allow, each staged and measured. Several wishes are met together, one after another
/// with the earlier ones kept. Fails where a wish does not apply to the shot.
[[nodiscard]] Expected<WishAnswers> answers_for(const Forecaster& forecaster, const Document& document,
                                                std::size_t shot, const std::vector<Wish>& wishes,
                                                const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
