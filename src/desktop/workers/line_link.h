// The window's end of a line to a program that stands for a device: every line gets one answer, in order.
#pragma once
#include <QLocalSocket>
#include <QObject>
#include <deque>
#include <functional>

namespace cinnabar {

class LineLink : public QObject {
  Q_OBJECT
 public:
  /// What is said of it to people, and how the answer to "hello" begins.
  struct Words {
    QString hello, stranger, gone, nobody;
  };
  LineLink(const Words& words, QObject* parent);
  ~LineLink() override;

  void join(const QString& socket);
  void leave() { over({}); }
  [[nodiscard]] bool joined() const { return socket_.state() == QLocalSocket::ConnectedState; }

 signals:
  void changed();
  /// A sentence for people: what was refused, or what came about.
  void told(const QString& text, bool refusal);

 protected:
  using Then = std::function<void(const QString& answer)>;
  /// Without `then`, a refusal is told.
  void ask(const QString& line, Then then = {});
  /// The line is cut, from either side: what was under way is over.
  void over(const QString& why);
  /// Whether anything was heard since this was asked last.
  [[nodiscard]] bool heardSince() { return std::exchange(heard_, false); }

  virtual void welcomed() { emit changed(); }  ///< it has said who it is
  /// Said without being asked; false where it is an answer.
  virtual bool unasked(const QString&) { return false; }
  virtual void forget() {}  ///< the line is cut

 private:
  void hear();
  void heard(const QString& line);

  Words words_;
  QLocalSocket socket_;
  std::deque<Then> waiting_;  ///< one for each line that was sent and not yet answered
  QByteArray bytes_;
  bool heard_ = false;
};

}  // namespace cinnabar
