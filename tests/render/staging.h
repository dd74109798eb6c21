// A test's document staged, ready for the tracer.
#pragma once
#include "cinnabar/scene/staged.h"
#include "worlds.h"

namespace cinnabar::worlds {

/// The first shot of a document at a set time.
inline std::shared_ptr<const StagedWorld> staged(const Json& doc, double at = 0.0) {
  const Project project = read(doc);
  return std::make_shared<const StagedWorld>(stage(project, *project.shots[0], at));
}

}  // namespace cinnabar::worlds
