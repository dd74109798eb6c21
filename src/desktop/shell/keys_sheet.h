// The list of keys.
#pragma once
class QWidget;

namespace cinnabar {

/// A sheet over the window with every key that does something, page by page.
void showKeys(QWidget* window);

}  // namespace cinnabar
