#include "cinnabar/desktop/shell/keys_sheet.h"

#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/sheets.h"

namespace cinnabar {

void showKeys(QWidget* window) {
  struct Row {
    QString where, keys, what;
  };
  const Row rows[] = {
      {QObject::tr("Everywhere"), "Ctrl+1, Ctrl+2, Ctrl+3, Ctrl+5, Ctrl+7",
       QObject::tr("Brief, Board, Stage, Takes, Kit")},
      {{}, "Ctrl+N, Ctrl+O", QObject::tr("new project, open")},
      {{}, "Ctrl+Z, Ctrl+Shift+Z", QObject::tr("undo, redo")},
      {{}, "Ctrl+K, Ctrl+P", QObject::tr("kept versions; shot cards on paper")},
      {{}, "Ctrl+B", QObject::tr("Blackout")},
      {{}, "F5", QObject::tr("watch the spot as film")},
      {{}, "F6", QObject::tr("what to dial in, in large letters")},
      {{}, "F1", QObject::tr("this list")},
      {QObject::tr("The spot"), QObject::tr("Left, Right"),
       QObject::tr("the shot before, after; with Ctrl it is moved")},
      {{}, QObject::tr("Plus, Minus"), QObject::tr("a frame longer, shorter")},
      {QObject::tr("Brief"), QObject::tr("Up, Down, Insert, Delete"),
       QObject::tr("what must be seen: choose, add, take away")},
      {QObject::tr("Board"), QObject::tr("arrows, Enter"),
       QObject::tr("the shot, open it on the Stage; with Ctrl it is moved")},
      {QObject::tr("Floor"), QObject::tr("Space"), QObject::tr("the next thing in hand")},
      {{}, QObject::tr("arrows, Page Up, Page Down"), QObject::tr("a centimetre; with Shift ten")},
      {{}, QObject::tr("V, Insert, Ctrl+D, Delete"), QObject::tr("view, set up, double, take away")},
      {QObject::tr("Lens"), QObject::tr("arrows, Escape"),
       QObject::tr("read a place; with Shift in larger steps; read no more")},
      {{}, "Z, F", QObject::tr("single pixels, the whole window")},
      {{}, QObject::tr("[ and ]"), QObject::tr("the line of a comparison")},
      {QObject::tr("What it mirrors"), QObject::tr("arrows, Enter"),
       QObject::tr("a direction of the room, put something there; Shift in larger steps")},
      {QObject::tr("Stops"), QObject::tr("Up, Down, Left, Right, P"),
       QObject::tr("the row, its notches, its pin")},
      {QObject::tr("Lights"), QObject::tr("Up, Down, Left, Right"), QObject::tr("the light, its dimmer")},
      {{}, QObject::tr("Space, S"), QObject::tr("switch, solo")},
      {QObject::tr("Ladder"), QObject::tr("Left, Right, Home, End"), QObject::tr("a kept frame; the ends")},
      {{}, QObject::tr("Space"), QObject::tr("play, stop")},
      {{}, QObject::tr("N, B, Insert, Delete"), QObject::tr("next key, last key, add, take off")},
      {{}, QObject::tr("arrows on a key"), QObject::tr("its time and value; with Shift ten times as far")},
      {{}, QObject::tr("[ and ]"), QObject::tr("the rung at the cursor: a ramp")},
      {{}, "Ctrl+C, Ctrl+V", QObject::tr("copy a track's keys, paste them")},
      {QObject::tr("Watch it"), QObject::tr("Space, R"), QObject::tr("play, halt; round and round")},
      {{}, QObject::tr("Left, Right, Up, Down"), QObject::tr("a picture, a shot")},
      {QObject::tr("Kit"), QObject::tr("Up, Down, Delete"), QObject::tr("the thing, take it away")},
      {QObject::tr("A number"), QObject::tr("Enter, Up, Down"),
       QObject::tr("type it, step it; with Shift ten steps")},
      {QObject::tr("Takes"), "K, D", QObject::tr("keep the take, drop it")},
      {{}, "1 ... 9", QObject::tr("its reasons")}};
  QString html = "<table cellspacing='0' cellpadding='2'>";
  for (const Row& row : rows)
    html += QString("<tr><td><b>%1</b>&nbsp;&nbsp;</td><td>%2&nbsp;&nbsp;</td><td>%3</td></tr>")
                .arg(row.where.toHtmlEscaped(), row.keys.toHtmlEscaped(), row.what.toHtmlEscaped());
  auto* dialog = new QDialog(window);
  beginSheet(dialog, "keys", QObject::tr("Keys"));
  auto* text = new QLabel(html + "</table>", dialog);
  text->setAccessibleName(QObject::tr("List of keys"));
  text->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  auto* list = new QScrollArea(dialog);
  list->setAccessibleName(QObject::tr("List of keys"));
  list->setFrameShape(QFrame::NoFrame);
  list->setWidget(text);
  (new QVBoxLayout(dialog))->addWidget(list);
  dialog->resize((text->sizeHint() + QSize(40, 30)).boundedTo(window->size() - QSize(40, 40)));
  dialog->open();
}

}  // namespace cinnabar
