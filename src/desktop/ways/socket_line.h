// Where a device's line is joined and left: its socket's path and a button.
#pragma once
#include <QLineEdit>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/workers/line_link.h"

namespace cinnabar {

class SocketLine : public QWidget {
  Q_OBJECT
 public:
  /// `stem` names its parts for tests ("motor": motorSocket, motorJoin) and its usual socket, cinnabar-`stem`.
  struct Words {
    QString stem, usual, name, tip, join;
  };
  SocketLine(LineLink* link, const Words& words, QWidget* parent);

 signals:
  void joining();

 private:
  void joinOrLeave();
  void refresh();

  LineLink* link_;
  QLineEdit* socket_;
  WordButton* join_;
};

}  // namespace cinnabar
