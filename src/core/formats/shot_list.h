// A shot list from outside: plain words pasted in, or a table joined to the shots that are there.
#pragma once
#include "cinnabar/formats/csv.h"
#include "cinnabar/project/document/edit.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// One value of one shot, or a whole shot, that was changed here and in the file since the file was written.
struct ShotConflict {
  std::string shot, name, field;  ///< its id and name, the column's heading
  std::string mine, theirs;       ///< as text
  std::string pointer;            ///< within the shot: "/camera/iso"; empty: the shot itself
  Json value;                     ///< theirs
  bool removed = false;           ///< there it is gone; without a pointer the whole shot
};

/// What reading a list would do. Values that both sides changed are left as they are and listed.
struct ShotsRead {
  Edit edit;
  int added = 0, changed = 0;
  std::vector<ShotConflict> conflicts;
  std::vector<std::string> faults;  ///< what could not be read, line by line ("line 4: ...")
  std::string note;                 ///< on the encoding, where one was taken for granted
};

/// Shots from a plain list, one a line: a name, then in any order and parted by commas or dashes a length ("3 s",
/// "48 frames"), a size (wide, close, macro), a lens ("50 mm"), an f-number, a rate ("120 fps"), a slowing ("4x
/// slow"), a set-up ("set-up B", by id or name). A number before the name, bullets and blank lines are passed
/// over; other phrases become notes. Each new shot is like the last one of its set-up, or like the project's
/// first.
[[nodiscard]] Expected<ShotsRead> shots_from_words(const Document& document, std::string_view text);

/// Shots from a table with the headings that the shot list is written with; `id` or `number` must be among them.
/// Known ids are changed, rows with an id that is not there, or none, are new shots. The column "as of" tells
/// whether a row was changed since it was written, and whether the shot was.
[[nodiscard]] Expected<ShotsRead> shots_from_table(const Document& document, std::string_view text,
                                                   const std::string& file);

/// The document's edit that takes theirs in those conflicts.
[[nodiscard]] Edit conflicts_taken(const Document& document, const std::vector<ShotConflict>& theirs);

}  // namespace cinnabar
