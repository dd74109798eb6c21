// The shot list and the log of takes as tables, out and in.
#pragma once
#include "cinnabar/formats/csv.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/project/document/edit.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// One row per shot: number, id, name, set-up, size, screen time, camera and exposure, places, takes. SI units,
/// named in the headings.
[[nodiscard]] std::vector<CsvRow> shot_table(const Project& project);
/// What stands in the column "as of": a mark of the row's values that can be read back (FNV-1a, 64 bits), by which
/// it is seen whether the row, or the shot, changed since.
[[nodiscard]] std::string shot_row_mark(const CsvRow& row);
/// One row per take: shot, number, at, kept, reasons (parted by "; "), notes.
[[nodiscard]] std::vector<CsvRow> take_table(const Project& project);

/// One row per thing of the packing list: what, how many wanted, owned and missing, shots, price, notes.
[[nodiscard]] std::vector<CsvRow> packing_table(const Packing& packing);

/// What reading a table of takes would do, and what could not be read, line by line ("line 4: ...").
struct TakesRead {
  Edit edit;
  int added = 0, changed = 0;
  std::vector<std::string> faults;
  std::string note;  ///< on the encoding, where one was taken for granted
};
/// Takes by shot (id, or number from 1) and take number: those that are there are changed, the others added.
/// Columns are found by their headings (shot, number, at, kept, reasons, notes); shot and number must be there.
[[nodiscard]] Expected<TakesRead> takes_from_table(const Document& document, std::string_view text,
                                                   const std::string& file);

}  // namespace cinnabar
