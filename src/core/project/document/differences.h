// What differs between two documents, in words a person can read.
#pragma once
#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// One line per thing: "Shot Hero reveal: camera/iso 200, was 160", "Set-up Dark sweep: lights/key added".
/// Entities by their names, members by their place in the document; items of lists with ids by those. At most
/// `most` lines, the last saying how many more there are.
[[nodiscard]] std::vector<std::string> differences_in_words(const Document& before, const Document& after,
                                                            std::size_t most = 200);

}  // namespace cinnabar
