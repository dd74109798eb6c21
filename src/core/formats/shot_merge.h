// Shots as one JSON file, and such a file merged back: joined by id, each value compared with what both sides
// began from, which the file keeps beside the shots.
#pragma once
#include "cinnabar/formats/shot_list.h"

namespace cinnabar {

/// {"format": "cinnabar-shots", "version": 1, "shots": [...], "as_written": [...]}: the shots, to be changed, and
/// the same once more, to be left alone.
[[nodiscard]] Json shots_json(const Document& document);
[[nodiscard]] bool is_shots_json(const Json& value);

/// What reading such a file back would do. A value changed there and not here is taken; changed here and not there
/// it stays; changed on both sides to something else it stays and is a conflict. The same holds for shots that
/// were added, taken away and moved. Without "as_written" every difference is a conflict. A shot that would leave
/// the document invalid is refused by its id.
[[nodiscard]] Expected<ShotsRead> shots_from_json(const Document& document, const Json& value,
                                                  const std::string& file);

/// Shots from a file's text by its ending: a plain list (.txt), a table (.csv), or JSON.
[[nodiscard]] Expected<ShotsRead> shots_from_text(const Document& document, const std::string& text,
                                                  const std::string& file);

}  // namespace cinnabar
