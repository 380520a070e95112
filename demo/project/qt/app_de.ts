<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de" sourcelanguage="en">
<context>
    <name></name>
    <message id="app_name">
        <source>Skerry Line</source>
        <extracomment>The name of the company; it stays as it is</extracomment>
        <translation type="unfinished"></translation>
    </message>
    <message id="website">
        <source>https://skerryline.example</source>
        <translation type="unfinished"></translation>
    </message>
    <message id="sailings_title">
        <source>Sailings</source>
        <extracomment>Title of the list of sailings</extracomment>
        <translation>Abfahrten</translation>
    </message>
    <message id="sailings_today">
        <source>Today&apos;s sailings</source>
        <extracomment>Heading above the sailings of the day</extracomment>
        <translation>Abfahrten heute</translation>
    </message>
    <message id="sailings_none">
        <source>No sailings today</source>
        <extracomment>Shown when no ferry leaves today</extracomment>
        <translation>Heute keine Abfahrten</translation>
    </message>
    <message id="sailing_route">
        <source>%1 to %2</source>
        <extracomment>One sailing: island of departure and of arrival</extracomment>
        <translation>%1 nach %2</translation>
    </message>
    <message id="sailing_departs">
        <source>Departs at %1</source>
        <extracomment>Time of departure of one sailing</extracomment>
        <translation>Abfahrt um %1</translation>
    </message>
    <message id="sailing_duration" numerus="yes">
        <source>%n minutes</source>
        <extracomment>How long a crossing takes</extracomment>
        <translation>
            <numerusform>%n Minute</numerusform>
            <numerusform>%n Minuten</numerusform>
        </translation>
    </message>
    <message id="sailing_space">
        <source>%1% of the deck is free</source>
        <extracomment>How much of the car deck is still free</extracomment>
        <translation>%1 % des Decks sind frei</translation>
    </message>
    <message id="booking_title">
        <source>Book a crossing</source>
        <extracomment>Title of the booking screen</extracomment>
        <translation>Überfahrt buchen</translation>
    </message>
    <message id="booking_passengers">
        <source>Passengers</source>
        <extracomment>Label of the number of passengers</extracomment>
        <translation>Fahrgäste</translation>
    </message>
    <message id="booking_bicycles">
        <source>Bicycles</source>
        <extracomment>Label of the number of bicycles</extracomment>
        <translation>Fahrräder</translation>
    </message>
    <message id="booking_cars">
        <source>Cars</source>
        <extracomment>Label of the number of cars</extracomment>
        <translation>Autos</translation>
    </message>
    <message id="booking_count_passengers" numerus="yes">
        <source>%n passengers</source>
        <translation>
            <numerusform>%n Fahrgast</numerusform>
            <numerusform>%n Fahrgäste</numerusform>
        </translation>
    </message>
    <message id="booking_count_bicycles" numerus="yes">
        <source>%n bicycles</source>
        <translation>
            <numerusform>%n Fahrrad</numerusform>
            <numerusform>%n Fahrräder</numerusform>
        </translation>
    </message>
    <message id="booking_price">
        <source>Total: %1</source>
        <extracomment>Price of the whole booking</extracomment>
        <translation>Gesamtpreis: %1</translation>
    </message>
    <message id="booking_confirm">
        <source>Confirm booking</source>
        <extracomment>Button that books and pays</extracomment>
        <translation>Kostenpflichtig buchen</translation>
    </message>
    <message id="booking_done">
        <source>Your booking code is %1. Show it on board.</source>
        <extracomment>Shown after booking; the code is letters and digits</extracomment>
        <translation>Ihr Buchungscode lautet %1. Bitte zeigen Sie ihn an Bord vor.</translation>
    </message>
    <message id="boarding_title">
        <source>Boarding pass</source>
        <extracomment>Title of the boarding pass</extracomment>
        <translation>Bordkarte</translation>
    </message>
    <message id="boarding_greeting">
        <source>Welcome aboard, %1!</source>
        <extracomment>Greets the passenger by first name</extracomment>
        <translation>Willkommen an Bord, %1!</translation>
    </message>
    <message id="boarding_deck">
        <source>Deck %1</source>
        <extracomment>Number of the deck</extracomment>
        <translation>Deck %1</translation>
    </message>
    <message id="boarding_gate">
        <source>Go to pier &lt;b&gt;%1&lt;/b&gt;</source>
        <extracomment>The pier is a letter and a number</extracomment>
        <translation>Gehen Sie zum Anleger &lt;b&gt;%1&lt;/b&gt;</translation>
    </message>
    <message id="boarding_closes" numerus="yes">
        <source>Boarding closes in %n minutes</source>
        <extracomment>Time left to board</extracomment>
        <translation>
            <numerusform>Das Einsteigen endet in %n Minute</numerusform>
            <numerusform>Das Einsteigen endet in %n Minuten</numerusform>
        </translation>
    </message>
    <message id="delay_title">
        <source>Weather delay</source>
        <extracomment>Title of the notice of a delay</extracomment>
        <translation>Verspätung wegen des Wetters</translation>
    </message>
    <message id="delay_reason">
        <source>Strong wind on the outer skerries</source>
        <translation>Starker Wind vor den äußeren Schären</translation>
    </message>
    <message id="delay_minutes" numerus="yes">
        <source>Your sailing is %n minutes late</source>
        <extracomment>How late the sailing is</extracomment>
        <translation>
            <numerusform>Ihre Abfahrt verspätet sich um %n Minute</numerusform>
            <numerusform>Ihre Abfahrt verspätet sich um %n Minuten</numerusform>
        </translation>
    </message>
    <message id="delay_call">
        <source>Questions? Call %1</source>
        <extracomment>Telephone number of the harbour office</extracomment>
        <translation>Fragen? Rufen Sie uns an: %1</translation>
    </message>
    <message id="map_title">
        <source>Harbour map</source>
        <extracomment>Title of the harbour map</extracomment>
        <translation>Hafenplan</translation>
    </message>
    <message id="map_pier">
        <source>Pier %1</source>
        <extracomment>A pier on the map</extracomment>
        <translation>Anleger %1</translation>
    </message>
    <message id="settings_title">
        <source>Settings</source>
        <translation>Einstellungen</translation>
    </message>
    <message id="settings_language">
        <source>Language</source>
        <extracomment>Label of the language menu</extracomment>
        <translation>Sprache</translation>
    </message>
    <message id="settings_follow">
        <source>Follow the device</source>
        <extracomment>Choice in the language menu: the language of the device</extracomment>
        <translation>Wie auf dem Gerät</translation>
    </message>
    <message id="action_back">
        <source>Back</source>
        <extracomment>Button that goes to the screen before</extracomment>
        <translation>Zurück</translation>
    </message>
    <message id="action_next">
        <source>Next</source>
        <extracomment>Button that goes on to the next step</extracomment>
        <translation>Weiter</translation>
    </message>
    <message id="action_cancel">
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message id="action_retry">
        <source>Try again</source>
        <translation>Erneut versuchen</translation>
    </message>
</context>
</TS>
