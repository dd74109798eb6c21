#include "cinnabar/forecast/levels/schools.h"

#include <map>
#include <utility>

namespace cinnabar {
namespace {

struct Told {
  std::string question;
  std::vector<std::pair<std::string, std::string>>
      schools;  ///< title and reason, in the order of the rule's names
};

const std::map<HouseRule, Told>& told() {
  static const std::map<HouseRule, Told> all{
      {HouseRule::shutter,
       {"How long the shutter stays open",
        {{"half the frame", "natural motion, as film has it"},
         {"much shorter", "every drop stands still"},
         {"safe from flicker", "whole half periods of the mains"}}}},
      {HouseRule::exposure,
       {"How exposure is paid for",
        {{"add light", "a low ISO keeps small sensors clean"},
         {"raise ISO", "stopped down, the pour stays sharp"}}}},
      {HouseRule::backdrop,
       {"What the backdrop is",
        {{"black", "five stops under the product reads as none"},
         {"white", "about a stop over the product, even"},
         {"gradient", "two to four stops across give depth"},
         {"colour", "near the product's own exposure"},
         {"key colour", "even, to be cut out later"}}}},
      {HouseRule::placing,
       {"Where the product stands",
        {{"far from the wall", "its shadow drops out of the frame"},
         {"flush against it", "its shadow hides behind it"}}}},
      {HouseRule::depth,
       {"How deep the focus is",
        {{"shallow", "blur hides table and backdrop"}, {"deep", "product and pour are sharp throughout"}}}},
      {HouseRule::movement,
       {"Where movement is made",
        {{"in camera", "slider, turntable and motor give true parallax"},
         {"in the crop", "locked off, the edit moves the frame"}}}},
      {HouseRule::overhead,
       {"Whether light comes from above",
        {{"allowed", "from the top it is even"}, {"never", "from the top it mirrors in the table"}}}},
      {HouseRule::droplets,
       {"What the droplets are",
        {{"glycerin mix", "stays and looks cold; oily to wipe off"},
         {"plain water", "wiped off with ease; renewed for every take"}}}},
      {HouseRule::order,
       {"What is shot first",
        {{"the hero", "while everything is clean and fresh"},
         {"as the story runs", "a client present can follow"},
         {"fewest moves", "stands move least between set-ups"}}}},
      {HouseRule::effects,
       {"How effects are made",
        {{"for real", "in one take, as it falls"}, {"from plates", "each part alone, put together in the edit"}}}},
      {HouseRule::ambient,
       {"What the room's light is",
        {{"blacked out", "every light is meant"}, {"the window", "daylight used on purpose"}}}},
      {HouseRule::fill,
       {"How the dark side is filled",
        {{"not at all", "contrast draws the shape"},
         {"big and far", "softens and keeps the shape"},
         {"small and near", "flat and friendly"}}}},
      {HouseRule::focus,
       {"Who focuses",
        {{"hand and marks", "it lands where it must"},
         {"autofocus, then locked", "quick, and it does not hunt in the take"}}}}};
  return all;
}

}  // namespace

const std::string& question_of(HouseRule rule) { return told().at(rule).question; }

const std::vector<School>& schools(HouseRule rule) {
  static const auto all = [] {
    std::map<HouseRule, std::vector<School>> list;
    for (const auto& [one, words] : told())
      for (std::size_t k = 0; k < words.schools.size(); ++k)
        list[one].push_back({row_of(one).names.at(k), words.schools[k].first, words.schools[k].second});
    return list;
  }();
  return all.at(rule);
}

}  // namespace cinnabar
