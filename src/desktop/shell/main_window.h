// The window: masthead, the spot, the pages and a line of messages.
#pragma once
#include <QMainWindow>
#include <QPointer>
#include <QStackedWidget>
#include <functional>
#include <map>
#include <memory>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"
#include "cinnabar/desktop/workers/picture_maker.h"

class QHBoxLayout;
class QLabel;

namespace cinnabar {

class WindowPage;
enum class WindowAction;
class BeginPage;
class ElsewhereLine;
class FilmMaker;
class PaperDesk;
class ShowMe;
class SpotStrip;
class StagePage;
class WordButton;
class Switch;

struct WindowOptions {
  QString page = "stage", bench = "light", theme = "paper", level;
  int shot = 1;
  QSize size{1280, 800};
  bool walk = false;                      ///< Show me at the first opening of the example
  bool remember = false;                  ///< begin where the last window ended, and note where this one does
  int passes = 64;                        ///< that the lens adds up
  MeasureQuality closely = full_measure;  ///< how levels are measured in the end
};

class MainWindow : public QMainWindow {
  Q_OBJECT
 public:
  explicit MainWindow(const WindowOptions& options);
  ~MainWindow() override;

  /// Opens a project file on a worker; the window shows it when it is read. Failures are said in the window.
  void openFile(const QString& path);
  /// The open project; nothing before the first.
  [[nodiscard]] Session* session() const { return session_.get(); }
  [[nodiscard]] bool settled() const;
  /// The Stage of the open project, made where it was not gone to yet; nothing before the first project.
  [[nodiscard]] StagePage* stage();
  void setDark(bool dark);
  void showPage(const QString& name);
  /// Begin, in front of the project that is open, if any; or back to it.
  void showBegin(bool on);
  /// The walk over the window.
  void showMe();
  /// Shots from a table (.csv) or a list (.txt), joined to those that are there.
  void readShotsFrom(const QString& path);
  /// Takes over a project that was opened (a new or an old file).
  void adopt(OpenedProject project);

 signals:
  void opened();
  void failed(const QString& why, int code);
  void paperWritten(const QString& path, bool written);

 protected:
  void showEvent(QShowEvent*) override;
  void closeEvent(QCloseEvent*) override;

 private:
  void makeMast(QWidget* ground);
  [[nodiscard]] QHBoxLayout* makeFoot(QWidget* ground);
  void makeKeys();
  void buildPages();
  void menu();
  void buildBegin();
  [[nodiscard]] bool beginning() const;
  WindowPage* page(const QString& id);
  void newProject();
  void makeProject(const Document& document, const QString& name);
  void openExample();
  void openProject();
  void remember(const QString& path);
  void say(const QString& text);
  void withFile(std::function<Expected<OpenedProject>()> make);
  void showVersions();
  void watch();
  void showSettings();
  void switchUnits();
  void tellLost(const QStringList& lost);
  void tellHeld();
  void tellKept();
  void askCopy();
  void recall();
  void askLight();
  void act(WindowAction action);

  WindowOptions options_;
  std::unique_ptr<Foresight> foresight_;
  std::unique_ptr<PictureMaker> maker_;
  std::unique_ptr<Session> session_;
  QWidget* mast_;
  WordButton *projectButton_, *watch_;
  std::map<QString, WordButton*> pageButtons_;
  QLabel* aim_;
  Switch* blackout_;
  QWidget *inside_ = nullptr, *body_ = nullptr;
  BeginPage* begin_ = nullptr;
  QPointer<ShowMe> walk_;
  QStackedWidget* pages_ = nullptr;
  std::map<QString, WindowPage*> pageById_;  ///< those gone to so far
  SpotStrip* strip_ = nullptr;
  QLabel *kept_, *messages_;
  QHBoxLayout* foot_ = nullptr;
  QPointer<ElsewhereLine> elsewhere_;
  QString page_, readOnly_;
  bool levelsClose_ = false, leaveHeld_ = false;
  int opening_ = 0;  ///< projects on their way
  std::unique_ptr<InOrder> opener_;
  std::unique_ptr<PaperDesk> papers_;
  std::unique_ptr<FilmMaker> film_;  ///< its pictures are kept while the window is there
};

}  // namespace cinnabar
