#include "cinnabar/forecast/levels/moods.h"

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"

namespace cinnabar {

const std::vector<Mood>& moods() {
  static const std::vector<Mood> list{{"gentle", {1.0, 2.0}, {12.0, {}}, 1.3, {}, 3.2, {1.12, 0.98, 0.86}},
                                      {"warm", {1.5, 3.0}, {3.0, 12.0}, 1.1, {}, 2.8, {1.5, 0.93, 0.5}},
                                      {"dramatic", {2.0, 4.0}, {3.0, 12.0}, 1.0, 0.5, 2.5, {1, 1, 1}},
                                      {"crisp", {1.0, 3.0}, {{}, 3.0}, 0.8, 0.75, 2.0, {0.94, 1.0, 1.08}}};
  return list;
}

const Mood* mood_named(const std::string& word) {
  for (const Mood& m : moods())
    if (m.word == word) return &m;
  return nullptr;
}

std::string mood_says(const Mood& m) {
  std::string text = said("Sides {} to {} stops apart, ", number_text(*m.ratio.low), number_text(*m.ratio.high));
  text += m.soft.low && m.soft.high
              ? said("shadow edges {} to {} mm", number_text(*m.soft.low), number_text(*m.soft.high))
          : m.soft.low ? said("shadow edges over {} mm", number_text(*m.soft.low))
                       : said("shadow edges under {} mm", number_text(*m.soft.high));
  if (m.judder_factor > 1.0)
    text += said(", moves {} % slower", number_text(100 * (m.judder_factor - 1.0), 3));
  else if (m.judder_factor < 1.0)
    text += said(", moves up to {} % quicker", number_text(100 * (1.0 / m.judder_factor - 1.0), 3));
  if (m.cuts_on_beats) text += said(", {} % of the cuts on beats", number_text(100 * *m.cuts_on_beats, 3));
  return text + ".";
}

}  // namespace cinnabar
