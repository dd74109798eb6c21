// A test's document staged, ready for the tracer.
#pragma once
#include "cinnabar/render/tracer.h"
#include "worlds.h"

namespace cinnabar::worlds {

/// The first shot of a document at a set time.
inline std::shared_ptr<const StagedWorld> staged(const Json& doc, double at = 0.0) {
  const Project project = read(doc);
  return std::make_shared<const StagedWorld>(stage(project, *project.shots[0], at));
}

/// A picture of so many passes; on one core it records its rays.
inline Film rendered(const Tracer& tracer, int width, int height, int passes,
                     Caustics caustics = Caustics::by_paths, bool one_core = false) {
  Film film = tracer.film(width, height, caustics);
  std::vector<RayRecord> record;
  for (int p = 0; p < passes; ++p) EXPECT_TRUE(tracer.add_pass(film, nullptr, one_core ? &record : nullptr));
  return film;
}

}  // namespace cinnabar::worlds
