#include "cinnabar/forecast/levels/schools.h"

#include <map>

namespace cinnabar {
namespace {

struct Rule {
  std::string question;
  std::vector<School> schools;
};

const std::map<std::string, Rule>& rules() {
  static const std::map<std::string, Rule> all{
      {"shutter",
       {"How long the shutter stays open",
        {{"half", "half the frame", "natural motion, as film has it"},
         {"crisp", "much shorter", "every drop stands still"},
         {"flicker-safe", "safe from flicker", "whole half periods of the mains"}}}},
      {"exposure",
       {"How exposure is paid for",
        {{"add-light", "add light", "a low ISO keeps small sensors clean"},
         {"stop-down", "raise ISO", "stopped down, the pour stays sharp"}}}},
      {"backdrop",
       {"What the backdrop is",
        {{"black", "black", "five stops under the product reads as none"},
         {"white", "white", "about a stop over the product, even"},
         {"gradient", "gradient", "two to four stops across give depth"},
         {"colour", "colour", "near the product's own exposure"},
         {"key", "key colour", "even, to be cut out later"}}}},
      {"placing",
       {"Where the product stands",
        {{"far", "far from the wall", "its shadow drops out of the frame"},
         {"flush", "flush against it", "its shadow hides behind it"}}}},
      {"depth",
       {"How deep the focus is",
        {{"shallow", "shallow", "blur hides table and backdrop"},
         {"deep", "deep", "product and pour are sharp throughout"}}}},
      {"movement",
       {"Where movement is made",
        {{"in-camera", "in camera", "slider, turntable and motor give true parallax"},
         {"locked-off", "in the crop", "locked off, the edit moves the frame"}}}},
      {"overhead",
       {"Whether light comes from above",
        {{"allowed", "allowed", "from the top it is even"},
         {"never", "never", "from the top it mirrors in the table"}}}},
      {"droplets",
       {"What the droplets are",
        {{"glycerin", "glycerin mix", "stays and looks cold; oily to wipe off"},
         {"water", "plain water", "wiped off with ease; renewed for every take"}}}},
      {"order",
       {"What is shot first",
        {{"hero-first", "the hero", "while everything is clean and fresh"},
         {"story", "as the story runs", "a client present can follow"},
         {"fewest-moves", "fewest moves", "stands move least between set-ups"}}}},
      {"effects",
       {"How effects are made",
        {{"real", "for real", "in one take, as it falls"},
         {"plates", "from plates", "each part alone, put together in the edit"}}}},
      {"ambient",
       {"What the room's light is",
        {{"black-out", "blacked out", "every light is meant"},
         {"window", "the window", "daylight used on purpose"}}}},
      {"fill",
       {"How the dark side is filled",
        {{"none", "not at all", "contrast draws the shape"},
         {"big-far", "big and far", "softens and keeps the shape"},
         {"small-near", "small and near", "flat and friendly"}}}},
      {"focus",
       {"Who focuses",
        {{"marks", "hand and marks", "it lands where it must"},
         {"autofocus-locked", "autofocus, then locked", "quick, and it does not hunt in the take"}}}}};
  return all;
}

}  // namespace

std::string question_of(const std::string& rule) {
  const auto found = rules().find(rule);
  return found == rules().end() ? std::string() : found->second.question;
}

const std::vector<School>& schools(const std::string& rule) {
  static const std::vector<School> none;
  const auto found = rules().find(rule);
  return found == rules().end() ? none : found->second.schools;
}

}  // namespace cinnabar
