// In what order the shots are shot, by the house rule `order`: hero first while everything is clean, as the story
// runs, or with the fewest moves of stands. Shots that use things up come last on their set-up, and set-ups of
// such shots last of the day (common practice, no source); under `story` the story rules.
#pragma once
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// Uses something up or is made by a move that wets, spills or scatters.
[[nodiscard]] bool leaves_traces(const Shot& shot);
/// The shot whose role is hero, else the first wide one, else the first; nothing where there is none.
[[nodiscard]] std::optional<std::size_t> hero_shot(const Project& project);

/// Things to be carried, turned or hung to get from one set-up to another: lights, cards, surface, backdrop.
[[nodiscard]] int things_moved(const Setup& from, const Setup& to);

/// Indices of all shots in that order. The fewest moves are found exactly over up to 12 set-ups (Held and Karp,
/// 1962), else by always taking the nearest.
[[nodiscard]] std::vector<std::size_t> shooting_order(const Project& project);
/// Things moved between set-ups over the whole order, the first set-up not counted.
[[nodiscard]] int things_moved(const Project& project, const std::vector<std::size_t>& order);

/// How often the floor is changed when all is shot in the order of the story, and when each set-up is shot at
/// once, the first building counted. A variation for which nothing is carried is no change.
struct FloorChanges {
  int as_told = 0, grouped = 0;
};
[[nodiscard]] FloorChanges floor_changes(const Project& project);

}  // namespace cinnabar
