// How much the workers do unasked, in the background.
#pragma once

namespace cinnabar {

struct Effort {
  int picturePasses = 64;  ///< that the lens adds up
  int levelPasses = 128;   ///< to which those of a level are doubled where it is to be sure
  bool counts = true;      ///< how the levels of shots out of sight stand, for the strip
};

}  // namespace cinnabar
