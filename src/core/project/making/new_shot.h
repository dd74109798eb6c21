// New shots: like one that is there, or a first one with a set-up, a light and a product of its own.
#pragma once
#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// An id of that stem that the list does not have: "s1", "s2", ...
[[nodiscard]] std::string fresh_id(const Document& document, const std::string& list, const std::string& stem);
/// The same in a list of entities within another; one that is not there takes no ids.
[[nodiscard]] std::string fresh_id(const Json& list, const std::string& stem);

/// A thing's own name as its id, with a number behind it where the list has that: "key", "key-2", ...
[[nodiscard]] std::string id_beside(const Json& list, const std::string& stem);

/// A shot as it would be added: a copy of `like` without its takes' history, or where there is none a plain one on
/// the project's first set-up and product. What a first shot needs and is not there yet is added to `document`.
[[nodiscard]] Json new_shot(Document& document, const Json* like, const std::string& name);

/// The document with a shot at a place in the list (at the end where the place is beyond it).
void insert_shot(Document& document, Json shot, std::size_t place);

}  // namespace cinnabar
