// The table of levels: one row says all that the program knows of a level. Nothing else knows these ids.
#pragma once
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/levers/knobs.h"
#include "cinnabar/forecast/levers/spot_levers.h"

namespace cinnabar {

enum class Group { frame, light, motion, focus, camera, effect, spot };
/// As ids begin.
[[nodiscard]] const char* group_name(Group group);

struct LevelRow {
  const char* id;
  const char* title;
  const char* brief;  ///< where there is no room for the title
  Group group;
  Unit unit;
  Band band{};                      ///< where no rule, mood or need sets it
  const char* source = "";          ///< the same
  std::optional<HouseRule> rule{};  ///< that sets the band, whose schools say why (levels/schools.cpp)
  bool (*shown)(const ShotContext&) = always;
  std::optional<Level> (*of_shot)(const ShotContext&, const LevelStart&) = nullptr;
  std::optional<Level> (*of_spot)(const SpotContext&, const LevelStart&) = nullptr;
  std::vector<KnobMaker> knobs{};  ///< likeliest first
  unsigned reads = reads_nothing;  ///< of measured light; where it reads any, a rough look may err
  bool by_many = false;  ///< a middle or mean of so many pixels that fewer do where levers are looked for
  bool sight = false;    ///< reads what lines of sight meet first: exact and without light, but by a moment's film
  bool closely = false;  ///< of the spot, but told only with the light of every shot
  SpotLevers spot_levers = nullptr;
  const char* why = "";  ///< said where no change within reach brings it home

  [[nodiscard]] bool sampled() const { return reads != reads_nothing; }
  /// Told by films, which are measured before it; a rough one may err.
  [[nodiscard]] bool by_film() const { return sampled() || sight; }
};

/// The last of them.
[[nodiscard]] const std::vector<LevelRow>& effect_and_spot_rows();
/// In the order in which they are shown: the shot's, then the spot's.
[[nodiscard]] const std::vector<LevelRow>& level_table();
/// Nothing where there is no such level.
[[nodiscard]] const LevelRow* level_row(const std::string& id);
/// What a level is called where there is no room for its title, in the window's language.
[[nodiscard]] std::string brief_of(const Level& level);

}  // namespace cinnabar
