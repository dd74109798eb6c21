// Every paper that is written, by its name.
#pragma once
#include <vector>

#include "cinnabar/desktop/paper/shot_cards.h"

namespace cinnabar {

enum class Paper { cards, list, board, crew, packing, settings };
struct PaperKind {
  Paper paper;
  const char* id;     ///< as --paper names it
  const char* title;  ///< for people
};
[[nodiscard]] const std::vector<PaperKind>& paperKinds();

/// Writes a paper as a PDF of A4 pages, whole or not at all: it is made beside its name and then put there. May
/// run on any thread; a cancelled run leaves what was there.
[[nodiscard]] Expected<void> writePaper(Paper paper, const Project& project, const QString& path,
                                        const CardOptions& options = {});

}  // namespace cinnabar
