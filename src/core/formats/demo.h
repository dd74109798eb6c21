// The demo project, made from the data in assets/demo/.
#pragma once
#include <string>

#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// Folder that holds a data file of the program ("assets/demo/slow-burn/project.json"): beside the installed
/// program, or the source tree it was built from. Empty when there is none.
[[nodiscard]] std::string data_folder(const std::string& relative);

/// The demo project in its first state, without its history.
[[nodiscard]] Expected<Document> demo_document();

/// Writes a new demo project: its first state, then the edits and takes of its log one by one, so that its history
/// is a real one.
[[nodiscard]] Expected<void> make_demo(const std::string& out);

}  // namespace cinnabar
