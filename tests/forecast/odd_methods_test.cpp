// Methods in set-ups that no demo has: what they are made for stands there too.
#include <iostream>

#include "cinnabar/forecast/methods/methods.h"
#include "cinnabar/project/checks/validation.h"
#include "odd_setups.h"

namespace cinnabar {
namespace {
using namespace odd_setups;

class OddMethods : public OddTest {};

// Own behaviour: the first that is offered stands in all that it is made for, whatever the product is made of.
// Lights that go about or are dimmed while the shot runs go on doing so in a method too: there it is only valid.
TEST_P(OddMethods, TheFirstStands) {
  const Json gloss{{"kind", "gloss"}, {"colour", {0.4, 0.05, 0.05}}, {"ior", 1.5}},
      metal{{"kind", "metal"}, {"colour", {0.8, 0.8, 0.8}}, {"roughness", 0.2}},
      glass{{"kind", "glass"}, {"ior", 1.5}}, paper{{"kind", "paper"}, {"colour", {0.7, 0.7, 0.6}}};
  struct Case {
    const char* name;
    const Json& material;
    const char* rule;
  };
  for (const auto& [name, material, rule] : {Case{"gloss", gloss, "colour"},
                                             {"metal", metal, "colour"},
                                             {"glass", glass, "colour"},
                                             {"paper", paper, "colour"},
                                             {"glass on white", glass, "white"},
                                             {"paper on white", paper, "white"},
                                             {"glass on black", glass, "black"},
                                             {"metal on black", metal, "black"}}) {
    SCOPED_TRACE(name);
    Json d = doc();
    d["products"][0]["parts"][0]["material"] = material;
    d["house_rules"]["backdrop"] = rule;
    const Document document = *Document::from_json(d);
    const auto found = methods_for(Forecaster(), document, 0);
    ASSERT_TRUE(found) << found.error().text();
    ASSERT_GE(found->size(), 1u);
    const bool steady = d["shots"][0].value("tracks", Json::array()).dump().find("light.") == std::string::npos;
    int made_for = 0, off = 0;
    for (const MethodStanding& one : *found) {
      SCOPED_TRACE(one.method->id);
      EXPECT_TRUE(validate(one.after).empty());
      for (const Level& level : one.levels) {
        const bool out = level.state == State::out || level.state == State::unknown;
        ++made_for, off += out ? 1 : 0;
        if (out)
          std::cout << "[ out      ] " << name << " " << one.method->id << ": " << level.id << ", "
                    << level.sentence << "\n";
        if (steady && &one == &found->front()) EXPECT_FALSE(out) << level.id << ": " << level.sentence;
      }
    }
    std::cout << "[ methods  ] " << name << ": " << found->size() << ", " << off << " of " << made_for << " out\n";
  }
}

INSTANTIATE_TEST_SUITE_P(Odd, OddMethods, testing::ValuesIn(odds), [](const auto& of) { return of.param.name; });

}  // namespace
}  // namespace cinnabar
