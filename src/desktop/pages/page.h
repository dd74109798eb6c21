// A page of the window, and the list of them: a new page is two files and one row.
#pragma once
#include <QWidget>
#include <vector>

namespace cinnabar {

class Foresight;
class PictureMaker;
class Session;

/// What pages are made of.
struct PageMaking {
  Session* session;
  Foresight* foresight;
  PictureMaker* maker;
};

/// What the window does for its pages.
enum class WindowAction { read_shots, packing_paper, packing_table };

class WindowPage : public QWidget {
  Q_OBJECT
 public:
  using QWidget::QWidget;
  /// Gives the keyboard to what is used first.
  virtual void takeFocus() {}
  /// Whether all that it shows has come.
  [[nodiscard]] virtual bool settled() const { return true; }

 signals:
  void pageWanted(const QString& id);
  void actionWanted(WindowAction action);
};

struct PageRow {
  const char* id;     ///< as --page and settings name it
  const char* title;  ///< in the masthead
  const char* key;
  bool strip;  ///< the spot's strip stands above it
  WindowPage* (*make)(const PageMaking&, QWidget* parent);
};
/// In the order of the work.
[[nodiscard]] const std::vector<PageRow>& pageRows();

}  // namespace cinnabar
